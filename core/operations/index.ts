export {
  type Acting,
  type Applied,
  type BodyOperation,
  type BodyWork,
  defineTreatment,
  type OperationDefinition,
  type Treatment,
  type TreatmentWork,
} from './define.ts'
export { bodyOperationOf, operationOf, operations, restFor, treatmentOf } from './registry.ts'
export { type FoundTreatment, findTreatments, newTreatment, treatmentNames } from './search.ts'

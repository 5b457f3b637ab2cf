export { type FontData, type FontName, fontField, fonts } from './fonts.ts'
export { type Lettering, type LetteringOptions, lettering } from './lettering.ts'

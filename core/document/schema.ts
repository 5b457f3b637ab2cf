import Joi from 'joi'
import { measureKinds } from '../measures/index.ts'
import { partUnits } from '../units/index.ts'
import { documentLimits } from './limits.ts'
import { bundleKind, currentVersion, effects, levelPoints, pieceColours, pivotLines } from './types.ts'

const id = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,64}$/)
  .messages({ 'string.pattern.base': '{#label} must be 1 to 64 letters, digits, - or _' })
const expression = Joi.string().allow('').max(documentLimits.text)
/** Lists of corners are longer than any expression. */
const fieldText = Joi.string().allow('').max(documentLimits.field)
const name = Joi.string().allow('').max(documentLimits.name)
const triple = Joi.array().items(Joi.number()).length(3)

const seat = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'bed', then: Joi.object({ kind: Joi.valid('bed').required() }) },
    {
      is: 'face',
      then: Joi.object({ kind: Joi.valid('face').required(), step: id.required(), face: name.required() }),
    },
    {
      is: 'held',
      then: Joi.object({
        kind: Joi.valid('held').required(),
        was: name.required(),
        frame: Joi.object({
          origin: triple.required(),
          u: triple.required(),
          v: triple.required(),
          size: Joi.array().items(Joi.number().min(0)).length(2).required(),
          round: Joi.number(),
        }).required(),
      }),
      otherwise: Joi.forbidden().messages({ 'any.unknown': '{#label} must be the bed, a face or a held place' }),
    },
  ],
})

const offset = Joi.object({
  of: id,
  from: Joi.valid('low', 'centre', 'high').required(),
  to: Joi.valid('near', 'centre', 'far', 'own').required(),
  by: expression.required(),
})

const place = Joi.object({
  on: seat.required(),
  across: offset.required(),
  along: offset.required(),
  rest: Joi.valid('on', 'in').required(),
  lift: expression.required(),
  turn: expression.required(),
  tilt: expression.required(),
  lean: expression.required(),
  base: name.required(),
  level: Joi.object({
    of: id.required(),
    from: Joi.valid(...levelPoints).required(),
    to: Joi.valid(...levelPoints).required(),
  }),
  pivot: Joi.object({
    of: id.allow('').required(),
    line: Joi.valid(...pivotLines).required(),
    by: expression.required(),
  }),
  until: Joi.object({ step: id.required(), face: name.required(), less: expression.required() }),
})

const fields = Joi.object()
  .pattern(/^[a-zA-Z][a-zA-Z0-9]{0,40}$/, fieldText)
  .max(40)

const repeat = Joi.object({ kind: id.required(), fields: fields.required() })

const step = Joi.object({
  id: id.required(),
  name: name.required(),
  effect: Joi.valid(...effects).required(),
  shape: id.required(),
  fields: fields.required(),
  place: place.required(),
  repeats: Joi.array().items(repeat).max(documentLimits.repeats).required(),
  omit: Joi.array().items(Joi.number().integer().min(1)).max(documentLimits.omitted).required(),
  ghost: Joi.boolean().required(),
  mute: Joi.boolean().required(),
  when: expression.required(),
  steps: Joi.when('shape', {
    is: bundleKind,
    then: Joi.array().items(Joi.link('#step')).max(documentLimits.steps).required(),
    otherwise: Joi.forbidden(),
  }),
}).id('step')

const measure = Joi.object({
  id: id.required(),
  name: name.required(),
  kind: Joi.valid(...measureKinds).required(),
  expression: expression.required(),
  note: Joi.string().allow('').max(documentLimits.note).required(),
  choices: Joi.array().items(name).max(documentLimits.choices),
  readings: Joi.array()
    .items(Joi.object({ value: Joi.number().required(), at: Joi.string().isoDate().required() }))
    .max(documentLimits.readings),
})

const readout = Joi.object({
  id: id.required(),
  name: name.required(),
  kind: id.required(),
  of: Joi.array()
    .items(Joi.object({ step: id.required(), face: name.required(), edge: Joi.string().max(documentLimits.edge) }))
    .max(2)
    .required(),
  note: Joi.string().allow('').max(documentLimits.note).required(),
})

const pair = Joi.array().items(Joi.number().min(-1e6).max(1e6)).length(2)
const side = Joi.valid(-1, 0, 1)

const takenFacePoint = Joi.object({
  step: id.required(),
  face: name.required(),
  u: side.required(),
  v: side.required(),
})
const copy = Joi.number().integer().min(1)
const takenEdge = Joi.object({ step: id.required(), face: name.required(), copy })
const takenEdgePoint = takenEdge.keys({ point: Joi.number().integer().min(0).max(3).required() })
const takenMeeting = Joi.object({
  edges: Joi.array().items(takenEdge).length(2).required(),
  nth: Joi.number().integer().min(0).max(1000).required(),
})
const point = Joi.object({
  id: id.required(),
  at: pair.required(),
  sharp: Joi.boolean(),
  taken: Joi.alternatives(takenFacePoint, takenEdgePoint, takenMeeting),
})
const curve = Joi.object({
  id: id.required(),
  kind: id.required(),
  points: Joi.array().items(id).max(documentLimits.curvePoints).required(),
  helper: Joi.boolean().required(),
  size: Joi.number().min(0).max(1e6),
  taken: takenEdge,
  fields,
})
const constraint = Joi.object({
  id: id.required(),
  kind: id.required(),
  of: Joi.array().items(id).max(3).required(),
  value: expression,
  driven: Joi.boolean(),
  label: pair,
})
const derived = Joi.object({
  id: id.required(),
  kind: id.required(),
  of: Joi.array().items(name).max(documentLimits.outlineCurves).required(),
  fields: fields.required(),
})
const outline = Joi.object({
  id: id.required(),
  name: name.required(),
  on: seat.required(),
  points: Joi.array().items(point).max(documentLimits.outlinePoints).unique('id').required(),
  curves: Joi.array().items(curve).max(documentLimits.outlineCurves).unique('id').required(),
  constraints: Joi.array().items(constraint).max(documentLimits.outlineConstraints).unique('id').required(),
  derived: Joi.array().items(derived).max(documentLimits.derived).unique('id').required(),
  toggled: Joi.array().items(fieldText).max(documentLimits.toggled).required(),
  picture: Joi.object({
    data: Joi.string()
      .pattern(/^data:image\/(png|jpeg);base64,[A-Za-z0-9+/=]+$/)
      .max(documentLimits.picture)
      .messages({ 'string.pattern.base': '{#label} must be a PNG or JPEG' })
      .required(),
    at: pair.required(),
    width: Joi.number().greater(0).max(1e5).required(),
    turn: Joi.number().min(-360).max(360).required(),
    strength: Joi.number().min(0).max(1).required(),
  }),
})

const variant = Joi.object({
  id: id.required(),
  name: name.required(),
  values: Joi.object().pattern(id, expression).max(documentLimits.measures).required(),
})
const joint = Joi.object({
  id: id.required(),
  name: name.required(),
  kind: id.required(),
  pieces: Joi.array().items(id).length(2).required(),
  fields: fields.required(),
  place: place.required(),
})
const view = Joi.object({
  id: id.required(),
  name: name.required(),
  from: triple.required(),
  target: triple.required(),
  tall: Joi.number().positive().required(),
  parallel: Joi.boolean().required(),
})

const strictly = { convert: false, abortEarly: true, errors: { wrap: { label: false } } } as const

/** The structure of a part file, version 5. What a step's fields mean is checked when the step is built. */
export const partSchema = Joi.object({
  format: Joi.valid('makrel-part').required(),
  version: Joi.valid(currentVersion).required(),
  id: id.required(),
  name: Joi.string().min(1).max(documentLimits.name).required(),
  unit: Joi.valid(...partUnits).required(),
  printer: id.required(),
  material: id.required(),
  note: Joi.string().allow('').max(documentLimits.note).required(),
  measures: Joi.array().items(measure).max(documentLimits.measures).unique('id').required(),
  variants: Joi.array().items(variant).max(documentLimits.variants).unique('id').required(),
  variant: Joi.string().allow('').max(64).required(),
  outlines: Joi.array().items(outline).max(documentLimits.outlines).unique('id').required(),
  pieces: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        name: name.required(),
        colour: Joi.alternatives()
          .try(Joi.valid(...pieceColours), Joi.string().pattern(/^#[0-9a-f]{6}$/))
          .required(),
        steps: Joi.array().items(step).max(documentLimits.steps).required(),
      }),
    )
    .min(1)
    .max(documentLimits.pieces)
    .unique('id')
    .required(),
  joints: Joi.array().items(joint).max(documentLimits.joints).unique('id').required(),
  readouts: Joi.array().items(readout).max(documentLimits.readouts).unique('id').required(),
  stepSize: Joi.string().allow('').max(40).required(),
  views: Joi.array().items(view).max(documentLimits.views).unique('id').required(),
}).prefs(strictly)

/** What the lists of a part hold, each by itself. */
export const itemSchemas = {
  measure: measure.prefs(strictly),
  variant: variant.prefs(strictly),
  step: step.prefs(strictly),
  joint: joint.prefs(strictly),
  readout: readout.prefs(strictly),
  view: view.prefs(strictly),
  outline: outline.prefs(strictly),
  point: point.prefs(strictly),
  curve: curve.prefs(strictly),
  constraint: constraint.prefs(strictly),
  derived: derived.prefs(strictly),
} as const

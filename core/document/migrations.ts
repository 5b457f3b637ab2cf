import { hashOfAsset } from './assets.ts'
import { materialThen, printerThen } from './named7.ts'

/**
 * How a document of an earlier version becomes one of the next: `migrations[n - 1]` takes version n to n + 1.
 * A migration is a pure function of plain JSON, so that it does not change when the types do; what it does not understand
 * it leaves for the schema to refuse.
 */
export const migrations: readonly ((document: unknown) => unknown)[] = [
  toVersion2,
  toVersion3,
  toVersion4,
  toVersion5,
  toVersion6,
  toVersion7,
  toVersion8,
  toVersion9,
  toVersion10,
  toVersion11,
  toVersion12,
  toVersion13,
  toVersion14,
]

type Json = Record<string, unknown>
const isObject = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value)
const each = (value: unknown, change: (item: Json) => unknown) =>
  Array.isArray(value) ? value.map((item) => (isObject(item) ? change(item) : item)) : value

/** Repeats got registered kinds with fields, places a lean and a base, steps the copies left out and a condition; variants came. */
function toVersion2(document: unknown): unknown {
  if (!isObject(document)) return document
  const place = (value: unknown) => (isObject(value) ? { ...value, lean: '0', base: '' } : value)
  const repeat = ({ kind, sweep, ...fields }: Json) =>
    kind === 'ring' ? { kind, fields: { ...fields, angle: sweep, spread: 'total' } } : { kind, fields }
  const step = ({ ghost, mute, ...rest }: Json) => ({
    ...rest,
    place: place(rest.place),
    repeats: each(rest.repeats, repeat),
    omit: [],
    ghost,
    mute,
    when: '',
  })
  const { pieces, joints, ...before } = document
  return {
    ...before,
    version: 2,
    variants: [],
    variant: '',
    pieces: each(pieces, (piece) => ({ ...piece, steps: each(piece.steps, step) })),
    joints: each(joints, (joint) => ({ ...joint, place: place(joint.place) })),
  }
}

/** Read-outs came; places may refer to other steps, and measures may hold choices, words and readings. */
function toVersion3(document: unknown): unknown {
  return isObject(document) ? { ...document, version: 3, readouts: [] } : document
}

/** Outlines came. */
function toVersion4(document: unknown): unknown {
  return isObject(document) ? { ...document, version: 4, outlines: [] } : document
}

/**
 * The centre of what is made from an outline became the middle of its extents; before, it was the zero of its drawing. A
 * step size and views came.
 */
function toVersion5(document: unknown): unknown {
  if (!isObject(document)) return document
  const drawn = ['extrude', 'cutout', 'loft', 'sweep']
  const asDrawn = (value: unknown) => (isObject(value) && value.to === 'centre' ? { ...value, to: 'own' } : value)
  const step = (own: Json): Json => {
    const { place, steps, shape } = own
    // What lies on a face of its own was centred by its extents already.
    const moves = drawn.includes(String(shape)) && isObject(place) && place.base === ''
    return {
      ...own,
      ...(moves ? { place: { ...place, across: asDrawn(place.across), along: asDrawn(place.along) } } : {}),
      ...(steps === undefined ? {} : { steps: each(steps, step) }),
    }
  }
  return {
    ...document,
    version: 5,
    stepSize: '',
    views: [],
    pieces: each(document.pieces, (piece) => ({ ...piece, steps: each(piece.steps, step) })),
  }
}

/** Read-outs may be taken of edges. */
function toVersion6(document: unknown): unknown {
  return isObject(document) ? { ...document, version: 6 } : document
}

/**
 * Steps tell what they are; what they do became an operation, and "same as" got a property of its own. Pictures of outlines
 * became assets.
 */
function toVersion7(document: unknown): unknown {
  if (!isObject(document)) return document
  const step = ({ id, name, effect, shape, fields, place, repeats, omit, ghost, mute, when, steps, ...more }: Json) => {
    const bundle = shape === 'bundle'
    const same = shape === 'same'
    const { of, ...scaling } = isObject(fields) ? fields : {}
    return {
      kind: bundle || same ? shape : 'shape',
      ...{ id, name, mute, when, operation: effect },
      fields: same && isObject(fields) ? scaling : fields,
      ...{ place, repeats, omit, ghost },
      ...(bundle ? {} : same ? { of: of ?? '' } : { shape }),
      ...(steps === undefined ? {} : { steps: steppedOn(steps) }),
      ...more,
    }
  }
  const steppedOn = (steps: unknown): unknown => each(steps, step)
  const assets = new Map<string, Json>()
  const outlines = each(document.outlines, (outline) => {
    const { picture } = outline
    if (!isObject(picture) || typeof picture.data !== 'string') return outline
    const { data, ...rest } = picture
    const hash = hashOfAsset(data as string)
    assets.set(hash, { hash, name: '', data })
    return { ...outline, picture: { asset: hash, ...rest } }
  })
  const { outlines: _, pieces, joints, readouts, stepSize, views, ...before } = document
  return {
    ...before,
    version: 7,
    ...{ assets: [...assets.values()], outlines },
    pieces: each(pieces, (piece) => ({ ...piece, steps: steppedOn(piece.steps) })),
    ...{ joints, readouts, stepSize, views },
  }
}

/** A part carries what it was designed with, not the names of its printer and material alone. */
function toVersion8(document: unknown): unknown {
  if (!isObject(document)) return document
  const { printer, material } = document
  return {
    ...document,
    version: 8,
    printer: typeof printer === 'string' ? printerThen(printer) : printer,
    material: typeof material === 'string' ? materialThen(material) : material,
  }
}

/** Poses and flex tests came. */
function toVersion9(document: unknown): unknown {
  return isObject(document) ? { ...document, version: 9, poses: [], printPose: '', flexes: [] } : document
}

/**
 * In parts in inches 4-1/3 became four and a third, as 4-1/4 was four and a quarter: what was a difference stays one, with room round its
 * sign.
 */
function toVersion10(document: unknown): unknown {
  if (!isObject(document)) return document
  const told = (value: unknown, key: string): unknown => {
    if (Array.isArray(value)) return value.map((each) => told(each, key))
    if (isObject(value))
      return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, told(each, name)]))
    const [, whole, over, under] = (typeof value === 'string' && /^\s*(\d+)-(\d+)\/(\d+)\s*$/.exec(value)) || []
    const wasRuled = [2, 4, 8, 16, 32, 64].includes(Number(under))
    return isWords(key) || whole === undefined || wasRuled ? value : `${whole} - ${over}/${under}`
  }
  if (document.unit !== 'in') return { ...document, version: 10 }
  // What a measure of another kind stands for may be a word that reads like a length.
  const { measures, variants, ...rest } = document
  const lengths = new Set<unknown>()
  each(measures, ({ id, kind }) => kind === 'length' && lengths.add(id))
  const valued = (values: unknown) =>
    isObject(values)
      ? Object.fromEntries(Object.entries(values).map(([id, own]) => [id, lengths.has(id) ? told(own, '') : own]))
      : values
  return {
    ...(told(rest, '') as Json),
    measures: each(measures, (measure) => (lengths.has(measure.id) ? told(measure, '') : measure)),
    variants: each(variants, (variant) => ({ ...variant, values: valued(variant.values) })),
    version: 10,
  }
}

/** Whether what stands under this key in a part file is written to be read, not worked out: a name, a note, letters. */
function isWords(key: string): boolean {
  return key === 'name' || key === 'note' || key === 'text'
}

/** What is tilted may be placed by its middle. */
function toVersion11(document: unknown): unknown {
  return isObject(document) ? { ...document, version: 11 } : document
}

/** What a flex test is of may be a whole piece: it is no `step` any more. */
function toVersion12(document: unknown): unknown {
  if (!isObject(document)) return document
  const flexes = each(document.flexes, ({ step, ...flex }) => ({ ...flex, of: step }))
  return { ...document, flexes, version: 12 }
}

/** What holds between layers of the materials that were shipped then, %. */
const acrossLayers: Readonly<Record<string, number>> = { pla: 55, petg: 60, asa: 45, pa: 60, tpu: 70 }

/** Findings may be set aside; a material may tell what holds between its layers. */
function toVersion13(document: unknown): unknown {
  if (!isObject(document)) return document
  const { material } = document
  const isShipped = isObject(material) && typeof material.id === 'string' && Object.hasOwn(acrossLayers, material.id)
  const told = isShipped ? { acrossLayers: acrossLayers[material.id as string], ...material } : material
  return { ...document, material: told, setAside: [], version: 13 }
}

/** Loads came, a least wall, and how faces have to lie. */
function toVersion14(document: unknown): unknown {
  return isObject(document) ? { ...document, loads: [], leastWall: '', stances: [], version: 14 } : document
}

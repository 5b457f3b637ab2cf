import type { WorkshopKind } from '@makrel/core/fits'

/** A value of a printer or material as its page asks for it. */
export interface ThingRow {
  /** where it is in the thing: "bed.0" */
  readonly place: string
  readonly label: string
  readonly unit: string
  readonly meaning: string
}

export interface ThingGroup {
  readonly title: string
  /** its values are guesses until they are measured on a print: a file makes up for what was */
  readonly measured?: true
  readonly rows: readonly ThingRow[]
}

function row(place: string, label: string, unit: string, meaning: string): ThingRow {
  return { place, label, unit, meaning }
}

/** What the page of a printer or material asks for, in its order; the fits of a printer have a table of their own. */
export const groupsOf: { readonly [K in WorkshopKind]: readonly ThingGroup[] } = {
  printers: [
    {
      title: 'Printing space',
      rows: [
        row('bed.0', 'Width', 'mm', 'Left to right.'),
        row('bed.1', 'Depth', 'mm', 'Front to back.'),
        row('bed.2', 'Height', 'mm', 'Up from the bed.'),
      ],
    },
    {
      title: 'Lines and layers',
      rows: [
        row('lineWidth', 'Line width', 'mm', 'Of one line that it lays.'),
        row('layerHeight', 'Layer height', 'mm', 'Of all layers but the first.'),
        row('firstLayer', 'First layer', 'mm', 'Height of the layer on the bed.'),
      ],
    },
    {
      title: 'What it can do',
      rows: [
        row('leastGap', 'Least gap sideways', 'mm', 'Two walls nearer than this fuse.'),
        row('leastLayers', 'Least gap upward', 'layers', 'Two surfaces above each other that are nearer fuse.'),
        row('overhang', 'Overhang', '°', 'How far off upright a surface may lean without help.'),
        row('bridge', 'Longest bridge', 'mm', 'What it spans between two walls without help.'),
      ],
    },
    {
      title: 'How far off it prints',
      measured: true,
      rows: [
        row(
          'outsideOffset',
          'Walls too thick',
          'mm',
          'Per side: outsides come out larger, slots and pockets narrower.',
        ),
        row('holeOffset', 'Round holes too small', 'mm', 'Per side, of holes up to 10 mm; larger ones less.'),
        row('flare', 'First layer flares', 'mm', 'How far it is pressed out sideways.'),
      ],
    },
  ],
  materials: [
    {
      title: 'By weight',
      rows: [
        row('density', 'Density', 'g/cm³', 'For the mass of a part.'),
        row('price', 'Price', 'per kg', 'In your currency.'),
      ],
    },
    {
      title: 'As it prints',
      measured: true,
      rows: [row('shrinkage', 'Shrinks by', '%', 'From warm to cold, as measured on a long print.')],
    },
    {
      title: 'What it bears',
      rows: [
        row('stiffness', 'Stiffness', 'MPa', 'Young’s modulus of the print.'),
        row('strainOnce', 'Strain once', '%', 'How far it can be bent out once.'),
        row('strainOften', 'Strain often', '%', 'How far it can be bent out again and again.'),
        row('acrossLayers', 'Between layers', '%', 'What holds between two layers, of what it bears along them.'),
        row('keepsForm', 'Softens at', '°C', 'Under load.'),
      ],
    },
  ],
}

/** Where a place's value comes from is kept at another one: which; undefined where nowhere. */
export function originPlace(kind: WorkshopKind, place: string): string | undefined {
  if (place.startsWith('fits.')) return place.replace(/gap$/, 'origin')
  const group = groupsOf[kind].find(({ rows }) => rows.some((own) => own.place === place))
  return group?.measured && 'measured'
}

/** The value at a place of a thing. */
export function valueAt(thing: object, place: string): unknown {
  return place
    .split('.')
    .reduce<unknown>(
      (at, name) => (typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[name] : undefined),
      thing,
    )
}

/** The thing with another value there. */
export function withValue<T extends object>(thing: T, place: string, value: unknown): T {
  const [name, ...rest] = place.split('.') as [string, ...string[]]
  const own = (thing as Record<string, unknown>)[name]
  const next = rest.length === 0 ? value : withValue((own ?? {}) as object, rest.join('.'), value)
  if (Array.isArray(thing)) return thing.map((each, i) => (String(i) === name ? next : each)) as unknown as T
  return { ...thing, [name]: next }
}

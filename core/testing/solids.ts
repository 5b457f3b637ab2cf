import { hasBody, type Part, type Place, type Step, type TreatmentStep } from '../document/index.ts'
import { edgeTraits } from '../fields/index.ts'
import { type MeshFigures, meshFigures } from '../mesh/index.ts'
import { treatmentOf } from '../operations/index.ts'
import { type Built, type RenderMesh, renderMeshOf } from '../solids/index.ts'
import { type Answer, summed, worded } from './answers.ts'
import { onFace, partOf, step, treatment } from './index.ts'
import { among, type PartKinds, randomPart } from './parts.ts'

/** A plate with up to six solids and cuts on it, anywhere. */
export function randomSolid(random: () => number): Step[] {
  const size = (low: number, high: number) => (low + (high - low) * random()).toFixed(2)
  const pick = <T>(all: readonly T[]) => all[Math.floor(random() * all.length)]!
  const corner = random() < 0.3 ? size(0.5, 4) : '0'
  const base = step('b', 'plate', { width: size(15, 40), depth: size(15, 40), height: size(4, 15), corner })
  const others = Array.from({ length: 2 + Math.floor(random() * 6) }, (_, i): Step => {
    const by = () => ({ from: 'centre', to: 'centre', by: size(-15, 15) }) as const
    const turn = random() < 0.5 ? '0' : size(0, 90)
    const place: Partial<Place> = { ...onFace('b', 'top'), across: by(), along: by(), turn }
    const cut = random() < 0.4 ? { operation: 'cut' } : {}
    const plate = { width: size(4, 15), depth: size(4, 15), height: size(1, 8) }
    const round = { diameter: size(4, 12), height: size(1, 8) }
    switch (pick(['plate', 'bar', 'hole', 'wedge', 'prism', 'bar'])) {
      case 'plate':
        return step(`s${i}`, 'plate', plate, { place, ...cut })
      case 'bar':
        return step(`s${i}`, 'bar', round, { place, ...cut })
      case 'hole':
        return step(`s${i}`, 'hole', { diameter: size(2, 8) }, { place })
      case 'wedge':
        return step(`s${i}`, 'wedge', {}, { place })
      default:
        return step(`s${i}`, 'prism', { sides: pick(['3', '5', '6']), size: size(6, 14) }, { place })
    }
  })
  return [base, ...others]
}

/** A plate with up to five pockets and bores in its top, anywhere. */
export function randomTray(random: () => number): Step[] {
  const size = (low: number, high: number) => (low + (high - low) * random()).toFixed(2)
  const corner = among(random, '0', size(2, 12))
  const base = step('b', 'plate', { width: size(50, 90), depth: size(40, 60), height: size(14, 25), corner })
  const pockets = Array.from({ length: 1 + Math.floor(random() * 5) }, (_, i): Step => {
    const by = (most: number) => ({ from: 'centre', to: 'centre', by: size(-most, most) }) as const
    const place = { ...onFace('b', 'top'), across: by(22), along: by(15), turn: among(random, '0', size(0, 90)) }
    const kind = among(random, 'plate', 'prism', 'hole', 'slot')
    const fields: Record<string, string> = {
      ...(kind === 'plate' && { width: size(8, 20), depth: size(8, 16), corner: among(random, '0', size(1, 3)) }),
      ...(kind === 'prism' && { sides: among(random, '3', '5', '6'), size: size(8, 16) }),
      ...(kind === 'slot' && { length: size(14, 24), width: size(5, 9) }),
      ...(kind === 'hole' ? { diameter: size(4, 14) } : { height: size(4, 9) }),
      ...((kind === 'hole' || kind === 'slot') && { reach: among(random, 'through', 'blind'), depth: size(4, 9) }),
    }
    return step(`s${i}`, kind, fields, { place, operation: 'cut' })
  })
  return [base, ...pockets]
}

/** A part whose last steps work on what stands, with all that their fields can say. */
export function treatedPart(random: () => number, treatments: readonly string[], kinds: PartKinds): Part {
  const part = random() < 0.6 ? partOf(randomSolid(random)) : randomPart(Math.floor(1000 * random()), kinds)
  return withTreatments(part, random, treatments, 1 + Math.floor(2 * random()))
}

/** The same with one such step, of few flats: hollows of others take long. */
export function plainlyTreatedPart(random: () => number, treatments: readonly string[]): Part {
  return withTreatments(partOf(randomSolid(random)), random, treatments, 1)
}

function withTreatments(part: Part, random: () => number, treatments: readonly string[], count: number): Part {
  const [piece, ...others] = part.pieces
  const steps = [...piece!.steps]
  for (let i = 0; i < count; i++) steps.push(randomTreatment(random, among(random, ...treatments), `t${i}`, steps))
  return { ...part, pieces: [{ ...piece!, steps }, ...others] }
}

function randomTreatment(random: () => number, kind: string, id: string, before: readonly Step[]): TreatmentStep {
  const ids = before.filter(hasBody).map((each) => each.id)
  const face = () =>
    `${among(random, ids[0]!, ...ids)}/${among(random, 'top', 'top', 'bottom', 'left', 'front', 'side')}`
  const several = (least: number, each: () => string) =>
    Array.from({ length: least + Math.floor(3 * random()) }, each).join('; ')
  const rule = (): string => {
    const traits = edgeTraits.filter(() => random() < 0.3)
    const where = among(
      random,
      'all',
      `of ${face()}`,
      `rims ${among(random, ...ids)}`,
      `where ${face()} meets ${face()}`,
    )
    return [...traits, traits.length > 0 && random() < 0.5 ? '' : where].filter(Boolean).join(' ')
  }
  const length = () => (0.2 + 3 * random() ** 2).toFixed(2)
  const fields = Object.entries(treatmentOf(kind)!.fields).map(([name, field]): [string, string] => {
    switch (field.kind) {
      case 'edges':
        return [name, [rule(), ...(random() < 0.3 ? [`${among(random, '', 'less ')}${rule()}`] : [])].join('; ')]
      case 'faces':
        return [name, several(kind === 'shift' ? 1 : 0, face)]
      case 'faceSizes':
        return [name, several(0, () => `${face()}, ${length()}`)]
      case 'plane':
        return [
          name,
          among(random, `${among(random, 'x', 'y', 'z')}, ${among(random, '0', '3.3', '-5.1')}`, `${face()}, -1.3`),
        ]
      case 'choice':
        return [name, among(random, ...Object.keys(field.choices))]
      case 'outline':
        return [name, 'o1']
      case 'angle':
        return [name, (5 + 40 * random()).toFixed(1)]
      case 'count':
        return [name, among(random, '1', '2', '3')]
      default:
        return [name, length()]
    }
  })
  return treatment(kind, Object.fromEntries(fields), id)
}

/** What the pieces of a part came to: how large and where they are, all their faces and edges, and what was told. */
export function answerOf(built: Built): Answer {
  const solids = built.pieces.flatMap(({ solid }) => solid ?? [])
  const drawn = built.pieces.flatMap((piece) => renderMeshOf(built, piece) ?? [])
  const edges = drawn.flatMap(({ named }) => named)
  const faces = drawn.flatMap(facesOf)
  const problems = built.buildProblems
  return {
    sizes: summed(solids.map((solid) => [solid.volume(), solid.area()])),
    figures: summed(solids.map((solid) => figuresOf(meshFigures(solid.mesh())))),
    places: summed(solids.map((solid) => [solid.bounds(), solid.mass().first])),
    faces: worded(faces.map(({ name }) => name)),
    areas: summed(faces.map(({ areas }) => areas)),
    edges: worded(edges.map(({ key }) => key)),
    bends: summed(edges.map(({ bend, points, next }) => [bend, ends(points), next])),
    drawn: summed(drawn.map(({ edges }) => total(edges))),
    read: summed(built.readouts.map(({ value, between }) => [value, between])),
    problems: worded(problems.map(({ code, path, rank }) => [code, path, rank])),
    offers: summed(problems.map(({ offer }) => offer?.value)),
  }
}

function figuresOf({ closed, oriented, openEdges, solids, cavities, volume, area, min, max }: MeshFigures) {
  return [Number(closed), Number(oriented), openEdges, solids, cavities, volume, area, min, max]
}

/** The faces of a piece by name, with their area as it is seen along each axis and as it is shaded. */
function facesOf({ positions, normals, faceOf, faces }: RenderMesh) {
  const areas = faces.map(() => [0, 0, 0, 0, 0, 0])
  for (let t = 0; t < faceOf.length; t++) {
    const at = (corner: number, k: number) => positions[9 * t + 3 * corner + k]!
    const own = areas[faceOf[t]!]!
    for (let k = 0; k < 3; k++) {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3]
      const across = (at(1, i) - at(0, i)) * (at(2, j) - at(0, j)) - (at(1, j) - at(0, j)) * (at(2, i) - at(0, i))
      own[k]! += Math.abs(across) / 2
      own[3 + k]! += (across * normals[9 * t + k]!) / 2
    }
  }
  return faces
    .map(({ owner, copy, face }, i) => ({ name: `${owner.id} ${copy} ${face}`, areas: areas[i]! }))
    .sort((a, b) => (a.name < b.name ? -1 : 1))
}

function ends(points: Float32Array): readonly number[] {
  return [...points.subarray(0, 3), ...points.subarray(points.length - 3)]
}

/** How long drawn lines are, pairs of points. */
function total(pairs: Float32Array): number {
  let sum = 0
  for (let i = 0; i < pairs.length; i += 6)
    sum += Math.hypot(pairs[i]! - pairs[i + 3]!, pairs[i + 1]! - pairs[i + 4]!, pairs[i + 2]! - pairs[i + 5]!)
  return sum
}

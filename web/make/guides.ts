import { type JointDefinition, joints } from '@makrel/core/joints'
import { type FoundTreatment, findTreatments, treatmentNames } from '@makrel/core/operations'
import { allNames, type Found, findShapes, nearestNames } from '@makrel/core/shapes'
import type { PartUnit } from '@makrel/core/units'

/**
 * Words that a maker may type to add something, and that are no shape: where the thing is done. `does` names what can be
 * done at once to the selected step; `go` leads to another stage.
 */
export interface Guide {
  readonly words: readonly string[]
  readonly label: string
  /** where it is done, in a sentence */
  readonly where: string
  readonly does?:
    | 'row'
    | 'grid'
    | 'ring'
    | 'mirror'
    | 'path'
    | 'move'
    | 'turn'
    | 'scale'
    | 'copy'
    | 'bundle'
    | 'same'
    | 'outline'
    | 'piece'
    | 'ruler'
    | 'section'
    | 'remove'
    | 'mute'
    | 'undo'
    | 'redo'
  /** the joint that is begun */
  readonly joint?: JointDefinition
  readonly go?: 'plan' | 'move' | 'proof' | 'layers' | 'hand-off'
}

const plain: readonly Guide[] = [
  {
    words: ['row', 'pattern', 'array', 'repeat', 'copies', 'linear pattern', 'spacing', 'ridges', 'steps', 'stairs'],
    label: 'copies in a row',
    where: 'Select a step; its line has copies in rows, grids, rings and mirrored.',
    does: 'row',
  },
  {
    words: ['grid', 'matrix', 'rectangular pattern', 'perforation', 'pegboard', 'texture'],
    label: 'copies on a grid',
    where: 'Select a step and repeat it on a grid.',
    does: 'grid',
  },
  {
    words: ['circular pattern', 'polar', 'around', 'bolt circle', 'hole circle', 'in a ring', 'radial', 'spokes'],
    label: 'copies in a ring',
    where: 'Select a step and repeat it in a ring.',
    does: 'ring',
  },
  {
    words: ['mirror', 'reflect', 'symmetry', 'symmetric', 'flip', 'mirrored', 'left-handed', 'other hand'],
    label: 'mirrored',
    where: 'Select a step and repeat it mirrored.',
    does: 'mirror',
  },
  {
    words: ['follow', 'along a path', 'along an outline'],
    label: 'copies along an outline',
    where: 'Select a step and repeat it along an outline.',
    does: 'path',
  },
  {
    words: ['move', 'shift', 'position', 'place', 'offset', 'align', 'centre', 'center', 'drag', 'distance'],
    label: 'where it stands',
    where: 'The distances are in the step’s own sentence; arrow keys and dragging move it as well.',
    does: 'move',
  },
  {
    words: ['turn', 'rotate', 'rotation', 'tilt', 'lean', 'angle', 'orient'],
    label: 'turned',
    where: 'Behind “more” on the step’s line: turned, tilted, leaning.',
    does: 'turn',
  },
  {
    words: ['scale', 'resize', 'enlarge', 'shrink', 'stretch'],
    label: 'scaled',
    where: 'Select a step or several; they become a bundle that can be scaled.',
    does: 'scale',
  },
  {
    words: ['copy', 'duplicate', 'clone', 'paste'],
    label: 'a copy',
    where: 'Select a step and copy it.',
    does: 'copy',
  },
  {
    words: ['same', 'instance', 'reference copy'],
    label: 'a linked copy',
    where: 'Select a step; the new one keeps its shape.',
    does: 'same',
  },
  {
    words: ['bundle', 'group', 'combine', 'merge', 'union', 'join', 'subassembly'],
    label: 'a bundle',
    where: 'Select several steps; they become one body.',
    does: 'bundle',
  },
  {
    words: ['subtract', 'difference', 'remove material', 'cut', 'hollow out'],
    label: 'cut',
    where: 'Every line begins with what it does: click “A plate” and choose Cut.',
  },
  {
    words: ['intersect', 'intersection', 'common', 'keep', 'trim'],
    label: 'keep what lies inside',
    where: 'Every line begins with what it does: click “A plate” and choose Keep.',
  },
  {
    words: ['edges', 'corners', 'edges of a plate'],
    label: 'edges of a plate, an extrusion or letters',
    where:
      'Plates, extrusions and letters have their edges behind “more” on their line; drawn corners are rounded in their outline.',
  },
  {
    words: ['wall of an outline', 'thin'],
    label: 'a wall',
    where: 'Extrusions and revolves can be walls: “filled” on their line. A tube is a round bar that is hollow.',
  },
  {
    words: [
      'outline',
      'draw',
      'drawing',
      'sketch',
      'line',
      'arc',
      'curve',
      'spline curve',
      'polyline',
      'profile',
      'contour',
      'freehand',
      'constraint',
    ],
    label: 'draw an outline',
    where: 'Draw it flat, with constraints and dimensions.',
    does: 'outline',
  },
  {
    words: ['import', 'svg', 'dxf', 'photo', 'photograph', 'picture', 'image', 'trace', 'scan of a drawing'],
    label: 'a drawing or a photograph',
    where: 'Draw an outline; SVG, DXF and photographs are imported there.',
    does: 'outline',
  },
  {
    words: ['piece', 'part', 'second body', 'separate', 'component', 'another piece', 'assembly'],
    label: 'another piece',
    where: 'A body of its own, below the sheet.',
    does: 'piece',
  },
  {
    words: ['joint', 'moving', 'motion', 'print in place', 'mechanism', 'linkage', 'animate'],
    label: 'a joint',
    where: 'Joints tie two pieces; they are added on Move.',
    go: 'move',
  },
  {
    words: ['measure', 'parameter', 'variable', 'formula', 'named value', 'dimension', 'value', 'equation'],
    label: 'a measure',
    where: 'Named values are kept on Plan.',
    go: 'plan',
  },
  {
    words: ['variant', 'configuration', 'size table'],
    label: 'a variant',
    where: 'Named sets of values are kept on Plan.',
    go: 'plan',
  },
  {
    words: [
      'unit',
      'units',
      'inches',
      'millimetres',
      'metric',
      'imperial',
      'material',
      'printer',
      'filament',
      'nozzle',
      'plastic',
      'bed size',
    ],
    label: 'unit, material and printer',
    where: 'They are chosen on Plan.',
    go: 'plan',
  },
  {
    words: ['ruler', 'calliper', 'caliper', 'read off', 'how far', 'thickness', 'length of', 'diameter of'],
    label: 'read sizes off the drawing',
    where: 'The ruler over the drawing reads distances, angles, diameters and thicknesses.',
    does: 'ruler',
  },
  {
    words: ['section', 'slice', 'cross section', 'cutaway'],
    label: 'cut the drawing open',
    where: 'The word “section” over the drawing.',
    does: 'section',
  },
  {
    words: [
      'check',
      'inspect',
      'proof',
      'watertight',
      'manifold',
      'errors',
      'overhang',
      'bridge',
      'support',
      'gap',
      'interference',
      'collision',
      'overlap',
      'printable',
    ],
    label: 'the proof',
    where: 'Every check is on Proof.',
    go: 'proof',
  },
  {
    words: ['layer', 'layers', 'preview', 'slicing', 'layer height', 'first layer'],
    label: 'layers',
    where: 'They are on Layers.',
    go: 'layers',
  },
  {
    words: ['export', 'stl', '3mf', 'obj', 'save', 'download', 'print', 'slicer', 'send'],
    label: 'hand it off',
    where: 'Files are written and checked on Hand off.',
    go: 'hand-off',
  },
  {
    words: ['fit', 'tolerance', 'clearance', 'play', 'press fit', 'slide fit', 'snug', 'loose fit', 'tight'],
    label: 'a fit',
    where: 'Type it behind a size: “hole 8 slide”. How wide each is stands with the printer, on Plan.',
    go: 'plan',
  },
  {
    words: ['shrinkage', 'compensation', 'calibrate', 'calibration', 'horizontal expansion', 'elephant foot'],
    label: 'what the printer does to sizes',
    where: 'It stands with the printer and the material, which are chosen on Plan.',
    go: 'plan',
  },
  {
    words: ['weight', 'mass', 'volume', 'centre of mass', 'center of mass', 'how heavy', 'cost', 'density'],
    label: 'weight and volume',
    where: 'They stand at the foot of the drawing; what a cm³ weighs is the material’s, on Plan.',
    go: 'plan',
  },
  {
    words: ['colour', 'color', 'paint', 'appearance'],
    label: 'colours of pieces',
    where: 'Click the square before a piece’s name; all at once on Plan.',
    go: 'plan',
  },
  {
    words: ['pose', 'lay flat', 'orient for printing', 'lay out', 'arrange', 'nest', 'plating'],
    label: 'how pieces lie on the bed',
    where: 'Poses are kept on Move; one of them is what leaves.',
    go: 'move',
  },
  {
    words: ['strain', 'stress', 'bend', 'flex', 'load', 'force', 'strength', 'simulate', 'stiffness'],
    label: 'a flex test',
    where: 'On Move: hold one edge, push another, and see how far it bends.',
    go: 'move',
  },
  { words: ['undo', 'take back', 'back'], label: 'undo', where: 'Ctrl+Z takes back what was done last.', does: 'undo' },
  { words: ['redo', 'again'], label: 'redo', where: 'Ctrl+Shift+Z does again what was taken back.', does: 'redo' },
  {
    words: ['delete', 'erase', 'remove'],
    label: 'remove the selected step',
    where: 'Select a step and press Delete.',
    does: 'remove',
  },
  {
    words: ['hide', 'mute', 'suppress', 'disable', 'leave out'],
    label: 'leave a step out',
    where: 'Select a step; its line has “mute”, which leaves it out.',
    does: 'mute',
  },
]

/** Every kind of joint is begun from here as well. */
const ofJoints = joints.map(
  (joint): Guide => ({
    words: [joint.label, ...joint.words],
    label: `a ${joint.label}`,
    where: 'A joint of two pieces, on Move.',
    joint,
  }),
)

export const guides: readonly Guide[] = [...plain, ...ofJoints]

/** Guides that a word leads to, the best first. */
export function findGuides(typed: string): readonly FoundGuide[] {
  const text = typed
    .trim()
    .toLowerCase()
    .replace(/\s+\d.*$/, '')
  if (text.length < 2) return []
  const score = ({ words }: Guide) =>
    Math.max(...words.map((word) => (word === text ? 2 : word.startsWith(text) ? 1 : 0)))
  return guides
    .filter((guide) => score(guide) > 0)
    .map((guide) => ({ ...guide, whole: score(guide) === 2 }))
    .sort((a, b) => Number(b.whole) - Number(a.whole))
}

/** What a typed word leads to: shapes by it whole, then guides by it whole, then what begins with it. */
export function leadsTo(typed: string, unit: PartUnit = 'mm', isName?: (word: string) => boolean) {
  const shapes = findShapes(typed, undefined, unit, isName)
  const treatments = findTreatments(typed, unit, isName)
  const found = findGuides(typed)
  const nearest =
    shapes.length + treatments.length + found.length > 0
      ? []
      : nearestNames(typed, [...allNames(), ...treatmentNames(), ...guides.flatMap(({ words }) => words)])
  return { shapes, treatments, guides: found, nearest }
}

/** A guide, with whether a word of it was typed to the end. */
export type FoundGuide = Guide & { readonly whole: boolean }

export type Item = Found | FoundTreatment | FoundGuide

/**
 * What was typed to its end comes before what only begins so, and last what takes no sense from all that was typed. Among alike ones
 * the sheet's own come first, those first that say most of it: a "bevel gear" is no bevel.
 */
export function inOrder(
  shapes: readonly Found[],
  treatments: readonly FoundTreatment[],
  guides: readonly FoundGuide[],
): readonly Item[] {
  const most = Math.max(0, ...shapes.map(({ said = 0 }) => said))
  const tier = (item: Item) => ('left' in item && item.left ? 2 : item.whole ? 0 : 1)
  const first = treatments.filter(({ whole, said }) => whole && said >= most)
  const all: readonly Item[] = [...first, ...shapes, ...treatments.filter((each) => !first.includes(each)), ...guides]
  return all.toSorted((a, b) => tier(a) - tier(b))
}

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
  readonly go?: 'plan' | 'move' | 'proof' | 'layers' | 'hand-off'
}

export const guides: readonly Guide[] = [
  {
    words: ['row', 'pattern', 'array', 'repeat', 'copies', 'linear pattern', 'spacing'],
    label: 'copies in a row',
    where: 'Select a step; its line has copies in rows, grids, rings and mirrored.',
    does: 'row',
  },
  {
    words: ['grid', 'matrix', 'rectangular pattern'],
    label: 'copies on a grid',
    where: 'Select a step and repeat it on a grid.',
    does: 'grid',
  },
  {
    words: ['circular pattern', 'polar', 'around', 'bolt circle', 'in a ring', 'radial'],
    label: 'copies in a ring',
    where: 'Select a step and repeat it in a ring.',
    does: 'ring',
  },
  {
    words: ['mirror', 'reflect', 'symmetry', 'flip', 'mirrored'],
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
    where: 'Every line begins with what it does: press “A plate” and choose Cut.',
  },
  {
    words: ['intersect', 'intersection', 'common', 'keep', 'trim'],
    label: 'keep what lies inside',
    where: 'Every line begins with what it does: press “A plate” and choose Keep.',
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
    words: ['outline', 'draw', 'drawing', 'line', 'arc', 'curve', 'polyline', 'profile', 'contour', 'freehand'],
    label: 'draw an outline',
    where: 'Draw it flat, with constraints and dimensions.',
    does: 'outline',
  },
  {
    words: ['import', 'svg', 'dxf', 'photo', 'picture', 'image', 'trace'],
    label: 'a drawing or a photograph',
    where: 'Draw an outline; SVG, DXF and photographs are imported there.',
    does: 'outline',
  },
  {
    words: ['piece', 'part', 'second body', 'separate', 'component'],
    label: 'another piece',
    where: 'A body of its own, below the sheet.',
    does: 'piece',
  },
  {
    words: ['joint', 'hinge', 'pivot', 'link', 'swivel', 'moving', 'print in place'],
    label: 'a joint',
    where: 'Joints tie two pieces; they are added on Move.',
    go: 'move',
  },
  {
    words: ['measure', 'parameter', 'variable', 'formula', 'named value', 'dimension'],
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
    words: ['unit', 'units', 'inches', 'millimetres', 'material', 'printer'],
    label: 'unit, material and printer',
    where: 'They are chosen on Plan.',
    go: 'plan',
  },
  {
    words: ['ruler', 'calliper', 'caliper', 'read off', 'how far'],
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
    words: ['check', 'inspect', 'watertight', 'manifold', 'errors'],
    label: 'the proof',
    where: 'Every check is on Proof.',
    go: 'proof',
  },
  { words: ['layer', 'layers', 'preview'], label: 'layers', where: 'They are on Layers.', go: 'layers' },
  {
    words: ['export', 'stl', '3mf', 'save', 'download', 'print'],
    label: 'hand it off',
    where: 'Files are written and checked on Hand off.',
    go: 'hand-off',
  },
  {
    words: ['delete', 'erase', 'remove'],
    label: 'remove the selected step',
    where: 'Select a step and press Delete.',
    does: 'remove',
  },
  {
    words: ['hide', 'mute', 'suppress', 'disable', 'leave out'],
    label: 'leave a step out',
    where: 'Select a step; the loudspeaker on its line leaves it out.',
    does: 'mute',
  },
]

/** Guides that a word leads to, the best first. */
export function findGuides(typed: string): readonly Guide[] {
  const text = typed
    .trim()
    .toLowerCase()
    .replace(/\s+\d.*$/, '')
  if (text.length < 2) return []
  const score = ({ words }: Guide) =>
    Math.max(...words.map((word) => (word === text ? 2 : word.startsWith(text) ? 1 : 0)))
  return guides.filter((guide) => score(guide) > 0).sort((a, b) => score(b) - score(a))
}

/** What a typed word leads to: shapes by it whole, then guides by it whole, then what begins with it. */
export function leadsTo(typed: string, unit: PartUnit = 'mm') {
  const shapes = findShapes(typed, undefined, unit)
  const treatments = findTreatments(typed, unit)
  const found = findGuides(typed)
  const nearest =
    shapes.length + treatments.length + found.length > 0
      ? []
      : nearestNames(typed, [...allNames(), ...treatmentNames(), ...guides.flatMap(({ words }) => words)])
  return { shapes, treatments, guides: found, nearest }
}

export type Item = Found | FoundTreatment | Guide

/** What was typed to its end comes first, where nothing else says more of it: a "bevel gear" is no bevel. */
export function inOrder(
  shapes: readonly Found[],
  treatments: readonly FoundTreatment[],
  guides: readonly Guide[],
): readonly Item[] {
  const most = Math.max(0, ...shapes.map(({ said = 0 }) => said))
  const first = treatments.filter(({ whole, said }) => whole && said >= most)
  return [...first, ...shapes, ...treatments.filter((each) => !first.includes(each)), ...guides]
}

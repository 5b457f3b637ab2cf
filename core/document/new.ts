import { shippedMaterials, shippedPrinters } from '../fits/index.ts'
import { currentVersion, type Part, type Piece, type PieceColour, type Place } from './format.ts'

export const onBed: Place = {
  on: { kind: 'bed' },
  across: { from: 'centre', to: 'centre', by: '0' },
  along: { from: 'centre', to: 'centre', by: '0' },
  rest: 'on',
  lift: '0',
  turn: '0',
  tilt: '0',
  lean: '0',
  base: '',
}

export function newPiece(id: string, name: string, colour: PieceColour): Piece {
  return { id, name, colour, steps: [] }
}

/** An empty part with one piece. */
export function newPart(
  ids: { part: string; piece: string },
  name: string,
  { printer = shippedPrinters[0]!, material = shippedMaterials[1]! } = {},
): Part {
  return {
    format: 'makrel-part',
    version: currentVersion,
    id: ids.part,
    name,
    unit: 'mm',
    printer,
    material,
    note: '',
    measures: [],
    variants: [],
    variant: '',
    assets: [],
    outlines: [],
    pieces: [newPiece(ids.piece, 'Piece 1', 'pewter')],
    joints: [],
    readouts: [],
    stepSize: '',
    views: [],
    poses: [],
    printPose: '',
    flexes: [],
    loads: [],
    leastWall: '',
    stances: [],
    setAside: [],
  }
}

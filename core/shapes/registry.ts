import { registered } from '../fields/index.ts'
import { ball } from './ball.ts'
import { bar } from './bar.ts'
import { datum } from './datum.ts'
import type { ShapeDefinition } from './define.ts'
import { cutout } from './drawn/cutout.ts'
import { emboss } from './drawn/emboss.ts'
import { extrude } from './drawn/extrude.ts'
import { helix } from './drawn/helix.ts'
import { loft } from './drawn/loft.ts'
import { revolve } from './drawn/revolve.ts'
import { rib } from './drawn/rib.ts'
import { sweep } from './drawn/sweep.ts'
import { halfRound } from './halfRound.ts'
import { bearingSeat } from './hardware/bearingSeat.ts'
import { insertHole } from './hardware/insertHole.ts'
import { keyWay } from './hardware/keyWay.ts'
import { knurl } from './hardware/knurl.ts'
import { magnetPocket } from './hardware/magnetPocket.ts'
import { nutPocket } from './hardware/nutPocket.ts'
import { pinHole } from './hardware/pinHole.ts'
import { ringGroove } from './hardware/ringGroove.ts'
import { screwHole } from './hardware/screwHole.ts'
import { sealGroove } from './hardware/sealGroove.ts'
import { heart } from './heart.ts'
import { hole } from './hole.ts'
import { mesh } from './imported/mesh.ts'
import { bevelGear } from './machine/bevelGear.ts'
import { chainMail } from './machine/chainMail.ts'
import { gear } from './machine/gear.ts'
import { rack } from './machine/rack.ts'
import { ringGear } from './machine/ringGear.ts'
import { worm } from './machine/worm.ts'
import { plate } from './plate.ts'
import { polyhedron } from './polyhedron.ts'
import { post } from './post.ts'
import { prism } from './prism.ts'
import { pyramid } from './pyramid.ts'
import { ring } from './ring.ts'
import { slot } from './slot.ts'
import { coilSpring } from './springs/coilSpring.ts'
import { curvedLeaf } from './springs/curvedLeaf.ts'
import { discSpring } from './springs/discSpring.ts'
import { flatSpiral } from './springs/flatSpiral.ts'
import { foldedLeaf } from './springs/foldedLeaf.ts'
import { leaf } from './springs/leaf.ts'
import { livingHinge } from './springs/livingHinge.ts'
import { serpentine } from './springs/serpentine.ts'
import { snapArm } from './springs/snapArm.ts'
import { waveWasher } from './springs/waveWasher.ts'
import { star } from './star.ts'
import { teardrop } from './teardrop.ts'
import { text } from './text.ts'
import { cutThread } from './threads/cutThread.ts'
import { screwThread } from './threads/screwThread.ts'
import { threadedHole } from './threads/threadedHole.ts'
import { withCutReach } from './through.ts'
import { upright } from './upright.ts'
import { wedge } from './wedge.ts'

/** Every kind of shape. A new one is its file and its line here. */
const all = [
  plate,
  upright,
  bar,
  wedge,
  ball,
  prism,
  post,
  ring,
  pyramid,
  halfRound,
  star,
  heart,
  polyhedron,
  hole,
  slot,
  teardrop,
  screwHole,
  nutPocket,
  insertHole,
  bearingSeat,
  pinHole,
  magnetPocket,
  ringGroove,
  sealGroove,
  keyWay,
  screwThread,
  threadedHole,
  cutThread,
  knurl,
  gear,
  ringGear,
  rack,
  bevelGear,
  worm,
  leaf,
  curvedLeaf,
  foldedLeaf,
  snapArm,
  serpentine,
  flatSpiral,
  livingHinge,
  coilSpring,
  discSpring,
  waveWasher,
  chainMail,
  extrude,
  cutout,
  revolve,
  sweep,
  helix,
  loft,
  rib,
  emboss,
  text,
  datum,
  mesh,
] as const satisfies readonly ShapeDefinition[]

export const shapes: readonly ShapeDefinition[] = all.map(withCutReach)

export const shapeOf = registered(shapes)

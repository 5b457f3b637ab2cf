import { newTreatment } from '@makrel/core/operations'
import { newStep } from '@makrel/core/shapes'
import { describe, expect, it } from 'vitest'
import { findGuides, inOrder, leadsTo } from './guides.ts'

/** What each word makes, with the values that matter; a cut begins with "−". Treatments stand behind "~", guides behind "→". */
const table = `
plate 40 30 5 = plate width=40 depth=30 height=5 | block 10x20x5 = plate width=10 depth=20 height=5 | box 10 × 20 × 5 = plate width=10 depth=20 height=5
cube 20 = plate width=20 depth=20 height=20 | square 20 5 = plate width=20 depth=20 height=5 | rectangle 40 30 = plate width=40 depth=30
slab 40 30 5 = plate width=40 | brick = plate | tile = plate | sheet = plate | panel = plate | strip = plate | base = plate | cuboid = plate | leaf = leaf-spring
lid = plate | body = plate | tray = plate | beam = plate | bracket = plate | rounded plate 40 30 5 4 = plate corner=4 | flat bar = plate | square block 12.7 = plate height=12.7
bar 9 19 = bar diameter=9 height=19 form=straight core=solid | cylinder 9 19 = bar diameter=9 height=19 | rod 6 = bar diameter=6 | pin 3 = bar diameter=3 | peg 3 = bar
boss 8 = bar diameter=8 | disc 30 3 = bar diameter=30 height=3 | disk 30 3 = bar diameter=30 height=3 | circle 20 = bar diameter=20 | wheel 40 8 = bar diameter=40 height=8
shaft 5 = bar | axle 5 = bar | dowel 6 = bar | column = bar | pillar = bar | stud = bar | button = bar | coin = bar
bevel gear 17 31 1.5 = bevel-gear teeth=17 mate=31 module=1.5 | mitre gear 20 2 = bevel-gear teeth=20 mate=20 module=2 | worm 1.5 16 30 = worm module=1.5 diameter=16 height=30
tube 30 4 = bar core=tube diameter=30 bore=30 - 2 * 4 | pipe 30 4 50 = bar core=tube bore=30 - 2 * 4 height=50 | sleeve 12 1 = bar core=tube bore=12 - 2 * 1
bush 12 2 = bar core=tube | bushing 12 2 = bar core=tube | spacer 10 5 8 = bar core=tube diameter=10 bore=5 height=8 | standoff 8 3.2 12 = bar core=tube bore=3.2 height=12
cone 20 30 = bar form=tapered end=0 diameter=20 height=30 | spike 5 20 = bar form=tapered end=0 | taper 20 10 30 = bar form=tapered diameter=20 end=10 height=30 | truncated cone 20 10 30 = bar form=tapered end=10
ball 20 = ball diameter=20 form=whole | sphere 20 = ball diameter=20 | globe = ball | bead 4 = ball diameter=4 | knob = ball
hemisphere 20 = ball form=part from=20 / 2 to=20 | dome 20 = ball form=part from=20 / 2 | half ball 20 = ball form=part
hexagon 13 10 = prism sides=6 size=13 height=10 | hex 13 10 = prism sides=6 size=13 height=10 | nut 13 6 = prism sides=6 size=13 height=6 | hex bar 13 60 = prism sides=6 height=60
octagon 13 10 = prism sides=8 size=13 height=10 | triangle 20 5 = prism sides=3 size=20 height=5 | pentagon 20 = prism sides=5 size=20 | heptagon 20 = prism sides=7 | decagon 20 = prism sides=10
dodecagon 20 = prism sides=12 size=20 | square bar 10 30 = prism sides=4 size=10 height=30 | prism 5 13 10 = prism sides=5 size=13 height=10 | polygon 7 20 = prism sides=7 size=20
hex hole 13 = −prism sides=6 size=13 cutReach=through | hexagonal hole 13 = −prism cutReach=through | nut pocket 13 6 = −prism size=13 height=6 cutReach=depth | nut trap 8 = −prism | hex socket 8 4 = −prism height=4 | triangular hole 9 = −prism sides=3
washer 20 10 2 = ring section=square diameter=20 thick=(20 - 10) / 2 height=2 | collar 30 20 = ring section=square thick=(30 - 20) / 2 | shim 20 10 0.5 = ring height=0.5
ring 30 4 = ring diameter=30 thick=4 section=round | torus 30 4 = ring diameter=30 thick=4 | o-ring 30 3 = ring thick=3 | donut = ring | hoop = ring | eye = ring | loop = ring | annulus 30 20 = ring section=square
hole 5.3 = −hole diameter=5.3 reach=through | hole ⌀5.3 8 = −hole diameter=5.3 depth=8 reach=blind | round hole 5 = −hole diameter=5 | bore 8 = −hole | drill 3 = −hole diameter=3 | screw hole 4.3 = −hole | bolt hole 6 = −hole
pilot hole 2.5 = −hole | clearance hole 5.3 = −hole | through hole 5 = −hole reach=through | blind hole 5 = −hole reach=blind
countersink 5 10 = −hole mouth=countersink diameter=5 head=10 | countersunk hole 5 10 = −hole mouth=countersink | counterbore 5 10 4 = −hole mouth=counterbore head=10 headDepth=4 | spotface 5 12 1 = −hole mouth=counterbore headDepth=1
square hole 8 = −slot ends=square length=8 width=8 reach=through | square hole 8 3 = −slot reach=blind depth=3 | rectangular hole 20 10 = −slot ends=square length=20 width=10 | window 20 10 = −slot ends=square
pocket 20 10 3 = −slot ends=square reach=blind depth=3 | recess 20 10 3 = −slot reach=blind | notch 5 3 = −slot ends=square | mortise 20 6 10 = −slot depth=10 | slot 20 5 = −slot length=20 width=5 ends=round | long hole 20 5 = −slot | groove 30 3 = −slot | keyway 20 5 = −slot
teardrop 6 = −teardrop diameter=6 | horizontal hole 6 = −teardrop
wedge 20 15 5 = wedge length=20 height=15 thick=5 | gusset 20 15 5 = wedge | ramp = wedge | brace = wedge | web = wedge | chock = wedge | right triangle 20 15 5 = wedge length=20
upright 5 30 30 = upright thick=5 | wall 5 30 30 = upright | flange = upright | lug = upright | ear = upright | fin = upright | tab = upright | partition = upright | divider = upright
pyramid 20 20 15 = pyramid | frustum 20 20 10 8 8 = pyramid topWidth=8 | roof = pyramid | hopper = pyramid | tent = pyramid
oblong 30 10 5 = post length=30 width=10 height=5 | stadium 30 10 5 = post | pill = post | capsule = post | arm = post | strap = post
half cylinder 20 30 = half-round | semicircle = half-round | arch = half-round | saddle = half-round | d-shaft = half-round
star 5 20 10 3 = star points=5 | serration = star | cog = star | heart 20 = heart width=20 | text Port = text text=Port | label Port = text text=Port | engraving = text | nameplate = text | letters = text
extrude = extrude | cut-out = −cutout | revolve = revolve | lathe = revolve | bowl = revolve | vase = revolve | pulley = revolve | sweep = sweep | wire = sweep | rail = sweep | loft = loft | funnel = loft | duct = loft
helix = helix | spring = helix | coil = helix | thread = screw-thread | emboss = emboss | engrave = −emboss | logo = emboss | stiffener = rib | hull = polyhedron | tetrahedron = polyhedron | gem = polyhedron
datum = datum | axis = datum | origin = datum | reference plane = datum | plane = datum
mirror → mirrored | reflect → mirrored | symmetry → mirrored | pattern → copies in a row | row → copies in a row | array → copies in a row | repeat → copies in a row | grid → copies on a grid | circular pattern → copies in a ring | bolt circle → copies in a ring
move → where it stands | align → where it stands | offset → where it stands | center → where it stands | turn → turned | rotate → turned | tilt → turned | scale → scaled | resize → scaled | copy → a copy | duplicate → a copy | group → a bundle | union → a bundle | merge → a bundle
subtract → cut | difference → cut | intersect → keep what lies inside | keep → keep what lies inside | edges → edges of a plate, an extrusion or letters
fillet 2.3 ~ round radius=2.3 | round 5/16 ~ round radius=5/16 | ease ~ round radius=1 | break edges ~ round | blend ~ round | chamfer 0.6 ~ bevel size=0.6 | bevel 1.5 ~ bevel size=1.5 form=even | edge ~ round
thin → a wall | shell 2 ~ hollow thick=2 | hollow 1.6 ~ hollow thick=1.6 open= | case ~ hollow | draw → draw an outline | line → draw an outline | svg → a drawing or a photograph | photo → a drawing or a photograph | piece → another piece | joint → a joint | hinge → a pin hinge | measure → a measure | variable → a measure
variant → a variant | units → unit, material and printer | ruler → read sizes off the drawing | section → cut the drawing open | export → hand it off | stl → hand it off | delete → remove the selected step | hide → leave a step out | layers → layers | watertight → the proof
tenon 20 6 10 = plate width=20 depth=6 height=10 | finger 8 3 12 = plate width=8 | plank 90 20 4 = plate | cover 40 30 2 = plate | shelf 80 40 4 = plate | platform = plate | enclosure 60 40 20 = plate width=60 | riser = plate | cleat 60 9 8 = plate | door stop = wedge
l bracket 4 30 20 = upright thick=4 width=30 height=20 | angle bracket = upright | back wall 3 60 40 = upright | side wall = upright | screen = upright | feet 10 5 = bar diameter=10 height=5 | foot = plate | bumper 9 4 = bar | pole 12 200 = bar | plug 8 10 = bar | roller 15 30 = bar
hub 20 12 = bar | dial 30 8 = bar | cap 24 6 = bar | pedestal = bar | handle bar 12 90 = bar | corner brace 20 20 5 = wedge | gasket 40 30 2 = ring section=square thick=(40 - 30) / 2 height=2 | seal 30 3 = ring diameter=30 thick=3 | grommet 12 3 = ring | bangle 70 6 = ring | bracelet = ring | ferrule = ring
stamp PORT = text text=PORT | sign Slip = text text=Slip | plaque = text | channel 40 6 3 = −slot ends=square reach=blind length=40 width=6 depth=3 | dado 40 6 3 = −slot reach=blind depth=3 | rabbet 40 6 3 = −slot reach=blind | trench 30 5 2 = −slot reach=blind | cable channel 60 5 4 = −slot depth=4
vent 20 3 = −slot length=20 width=3 reach=through | grille 30 2.5 = −slot | louvre 30 3 = −slot | louver = −slot | t-slot 20 8 = −slot ends=square | letterbox 40 5 = −slot ends=square | hand hole 80 25 = −slot | cable slot 12 4 = −slot | tapped hole 3.3 = −hole diameter=3.3 | insert hole 4.2 6 = −hole depth=6 reach=blind | dowel hole 6 = −hole
drain hole 5 = −hole | drain 5 = −hole | cable hole 7 = −hole | wire hole 3 = −hole | air hole 2 = −hole | finger hole 20 = −hole | honeycomb 6 = −prism sides=6 size=6 cutReach=through | arrow 20 3 = prism sides=3 size=20 height=3 | arrowhead 12 2 = prism sides=3 | knurled bar 20 19 8 = star points=36 outer=20 inner=19 height=8 | knurl 10 1.6 = −knurl length=10 pitch=1.6 | knurling = −knurl pattern=diamond
deboss = −emboss | sink = −emboss | cookie cutter = extrude | custom shape = extrude | custom hole = −cutout | keyhole = −cutout | d-hole = −cutout | snap = snap-arm | snap hook 15 = snap-arm length=15 | barb = snap-arm | clasp = snap-arm | snap fit = snap-arm | latch = snap-arm | spring arm 30 2 8 = leaf-spring | diving board = leaf-spring | flexible arm = leaf-spring
spur = gear | timing gear 20 = gear teeth=20 | teeth 24 = gear teeth=24 | zero = datum | v-block 20 = half-round diameter=20 | cradle 30 = half-round diameter=30 | half pipe 30 = half-round | rock = polyhedron | stiffening rib 3 = rib thick=3 | chain mail 14 2 = chain-mail outer=14 wire=2 | coil spring 12 2 = coil-spring diameter=12 wire=2 | living hinge 10 0.4 = living-hinge web=10 thin=0.4
ring gear 48 1.5 = ring-gear teeth=48 module=1.5 | rack 20 1.5 = rack teeth=20 module=1.5 | crown wheel = bevel-gear | wave washer 20 14 = wave-washer outer=20 inner=14 | spiral spring = flat-spiral | zigzag spring = serpentine | clip spring = folded-leaf | bow spring = curved-leaf | disc spring = disc-spring | auger = helix | screw thread = screw-thread | adapter = loft | sheave = revolve | handle = revolve | moulding = sweep
pin hinge → a pin hinge | barrel hinge → a pin hinge | pivot → a pin hinge | piano hinge → a piano hinge | continuous hinge → a piano hinge | chain link → a link | ball joint → a ball and socket | ball and socket → a ball and socket | swivel → a ball and socket | captive ring → a captive ring | spinning ring → a captive ring | slide → a slide | slider → a slide | drawer → a slide | dovetail slide → a slide
telescope → a telescoping tube | bayonet → a bayonet | quarter turn → a bayonet | twist lock → a twist lock | detent → a detent | click → a detent | ratchet → a ratchet and pawl | pawl → a ratchet and pawl | flexible joint → a flexure | gear mesh → a gear mesh | gear pair → a gear mesh | planetary gear → a planetary set | epicyclic → a planetary set | belt → a belt | sprocket → a belt | timing belt → a belt
free piece → a free piece | mechanism → a joint | print in place → a joint | fit → a fit | tolerance → a fit | clearance → a fit | play → a fit | press fit → a fit | weight → weight and volume | mass → weight and volume | centre of mass → weight and volume | overhang → the proof | bridge → the proof | interference → the proof | support → the proof | undo → undo | redo → redo | colour → colours of pieces | color → colours of pieces
sketch → draw an outline | constraint → draw an outline | texture → copies on a grid | perforation → copies on a grid | hole circle → copies in a ring | left-handed → mirrored | pose → how pieces lie on the bed | arrange → how pieces lie on the bed | strength → a flex test | simulate → a flex test | strain → a flex test | shrinkage → what the printer does to sizes | calibrate → what the printer does to sizes | filament → unit, material and printer | nozzle → unit, material and printer
print → hand it off | slicer → hand it off | first layer → layers | caliper → read sizes off the drawing | equation → a measure | assembly → another piece | cut in half ~ split | halve ~ split | divide ~ split | dovetail ~ split | puzzle joint ~ splitAlong | move face ~ shift | thicken a wall ~ shift | cavity ~ hollow | break edges 0.4 ~ round | thin wall 1.2 ~ hollow thick=1.2
`
const entries = table
  .trim()
  .split(/\n|\s\|\s/)
  .map((entry) => entry.trim())

describe('what a maker types leads to the thing, or to the place where it is done', () => {
  it('in four hundred words and more', () => expect(new Set(entries).size).toBeGreaterThan(400))
  it.each(entries.filter((entry) => entry.includes(' = ')).map((entry) => entry.split(/ = (.*)/)))(
    '%s',
    (typed, wanted) => {
      const { shapes } = leadsTo(typed!)
      const [kind, ...rest] = wanted!.split(/ (?=\w+=)/)
      const step = newStep('x', shapes[0]!)
      expect([step.operation === 'cut' ? '−' : '', step.shape].join('')).toBe(kind)
      for (const pair of rest) {
        const [field, value] = pair.split(/=(.*)/)
        expect([field, step.fields[field!]]).toEqual([field, value])
      }
    },
  )
  it.each(entries.filter((entry) => entry.includes(' ~ ')).map((entry) => entry.split(' ~ ')))(
    '%s',
    (typed, wanted) => {
      const [kind, ...rest] = wanted!.split(/ (?=\w+=)/)
      const step = newTreatment('x', leadsTo(typed!).treatments[0]!)
      expect(step).toMatchObject({ kind: 'treatment', operation: kind })
      for (const pair of rest) {
        const [field, value] = pair.split('=')
        expect([field, step.fields[field!]]).toEqual([field, value])
      }
    },
  )
  it.each(entries.filter((entry) => entry.includes(' → ')).map((entry) => entry.split(' → ')))('%s', (typed, label) => {
    expect(findGuides(typed!)[0]?.label).toBe(label)
    // A shape goes first only where it is called so.
    const [shape] = leadsTo(typed!).shapes
    expect(shape?.word ?? shape?.shape.label ?? '').not.toBe(typed)
  })
  it('puts first what says most of what was typed', () => {
    const first = (typed: string) => {
      const { shapes, treatments, guides } = leadsTo(typed, 'mm', () => false)
      const item = inOrder(shapes, treatments, guides)[0]!
      return 'shape' in item ? item.shape.kind : 'treatment' in item ? item.treatment.kind : item.label
    }
    expect(first('bevel gear 24 31')).toBe('bevel-gear')
    expect(first('bevel g')).toBe('bevel-gear')
    expect(first('bevel 1.5')).toBe('bevel')
    expect(first('bevel wall')).toBe('bevel')
    expect(first('worm 1.5')).toBe('worm')
    expect(first('round bar 8')).toBe('bar')
    expect(first('round 2')).toBe('round')
    expect(first('hinge')).toBe('a pin hinge')
    expect(first('ball joint 20')).toBe('a ball and socket')
    expect(first('print')).toBe('hand it off')
    expect(first('hole 5')).toBe('hole')
  })
  it('offers the nearest name for what nothing begins with', () => {
    expect(leadsTo('hexgon 13').nearest).toContain('hexagon')
    expect(leadsTo('cylindre').nearest).toContain('cylinder')
    expect(leadsTo('chamfr').nearest).toContain('chamfer')
    expect(leadsTo('zzzzz')).toMatchObject({ shapes: [], guides: [], nearest: [] })
  })
  it('takes numbers as they are written', () => {
    const fields = (typed: string) => leadsTo(typed).shapes[0]!.fields
    expect(fields('plate 1 1/2 3/4 1/8')).toMatchObject({ width: '1 1/2', depth: '3/4', height: '1/8' })
    expect(fields('plate 84 44/2 6')).toMatchObject({ width: '84', depth: '44/2', height: '6' })
    expect(fields('plate 10x20x5')).toMatchObject({ width: '10', depth: '20', height: '5' })
    expect(fields('plate 10 x 20 x wall')).toMatchObject({ width: '10', depth: '20', height: 'wall' })
    expect(fields('plate 2 in x 1 1/4 in x 6 mm')).toMatchObject({ width: '2 in', depth: '1 1/4 in', height: '6 mm' })
    expect(fields('plate 2,5 3')).toMatchObject({ width: '2,5', depth: '3' })
    expect(fields('tube (foot + 2) wall')).toMatchObject({ diameter: 'foot + 2', bore: '(foot + 2) - 2 * wall' })
  })
  it('is as large in inches as it is in millimetres, in sizes of a rule', () => {
    const { fields } = leadsTo('plate', 'in').shapes[0]!
    expect(fields).toMatchObject({ width: '1 9/16', depth: '1 3/16', height: '13/64', corner: '0' })
  })
})

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
star 5 20 10 3 = star points=5 | serration = star | sprocket = star | cog = star | heart 20 = heart width=20 | text Port = text text=Port | label Port = text text=Port | engraving = text | nameplate = text | letters = text
extrude = extrude | cut-out = −cutout | revolve = revolve | lathe = revolve | bowl = revolve | vase = revolve | pulley = revolve | sweep = sweep | wire = sweep | rail = sweep | loft = loft | funnel = loft | duct = loft
helix = helix | spring = helix | coil = helix | thread = helix | emboss = emboss | engrave = emboss | logo = emboss | stiffener = rib | hull = polyhedron | tetrahedron = polyhedron | gem = polyhedron
datum = datum | axis = datum | origin = datum | reference plane = datum | plane = datum
mirror → mirrored | reflect → mirrored | symmetry → mirrored | pattern → copies in a row | row → copies in a row | array → copies in a row | repeat → copies in a row | grid → copies on a grid | circular pattern → copies in a ring | bolt circle → copies in a ring
move → where it stands | align → where it stands | offset → where it stands | center → where it stands | turn → turned | rotate → turned | tilt → turned | scale → scaled | resize → scaled | copy → a copy | duplicate → a copy | group → a bundle | union → a bundle | merge → a bundle
subtract → cut | difference → cut | intersect → keep what lies inside | keep → keep what lies inside | edges → edges of a plate, an extrusion or letters
fillet 2.3 ~ round radius=2.3 | round 5/16 ~ round radius=5/16 | ease ~ round radius=1 | break edges ~ round | blend ~ round | chamfer 0.6 ~ bevel size=0.6 | bevel 1.5 ~ bevel size=1.5 form=even | edge ~ round
thin → a wall | shell 2 ~ hollow thick=2 | hollow 1.6 ~ hollow thick=1.6 open= | case ~ hollow | draw → draw an outline | line → draw an outline | svg → a drawing or a photograph | photo → a drawing or a photograph | piece → another piece | joint → a joint | hinge → a joint | measure → a measure | variable → a measure
variant → a variant | units → unit, material and printer | ruler → read sizes off the drawing | section → cut the drawing open | export → hand it off | stl → hand it off | delete → remove the selected step | hide → leave a step out | layers → layers | watertight → the proof
`
const entries = table
  .trim()
  .split(/\n|\s\|\s/)
  .map((entry) => entry.trim())

describe('what a maker types leads to the thing, or to the place where it is done', () => {
  it('in two hundred words and more', () => expect(entries.length).toBeGreaterThan(200))
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
      const { shapes, treatments, guides } = leadsTo(typed)
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

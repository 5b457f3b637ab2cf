import { describe, expect, it } from 'vitest'
import { applyEdit, clipOf, type Part, pasteEdits, readPartFile, writePartFile } from '../../document/index.ts'
import { meshFigures, packedMesh, type TriangleMesh, unpackedMesh } from '../../mesh/index.ts'
import { compose, type Frame, norm, pointOut, subtract, turnedAbout, type Vec3 } from '../../place/index.ts'
import { fieldKindOf, upgraded, workOut } from '../../planning/index.ts'
import { renderMeshOf } from '../../solids/index.ts'
import { built, onFace, partOf, repeat, seeded, step, testKernel } from '../../testing/index.ts'
import { boxMesh, joinedMesh, meshAsset, movedMesh, tubeMesh } from '../../testing/meshes.ts'
import { facesOfMesh } from './features.ts'

const kernel = await testKernel()

function turnedMesh({ positions, triangles }: TriangleMesh, frame: Frame): TriangleMesh {
  const out = positions.slice()
  for (let i = 0; i < out.length; i += 3)
    out.set(pointOut(frame, [positions[i]!, positions[i + 1]!, positions[i + 2]!]), i)
  return { positions: out, triangles }
}
const named = (mesh: TriangleMesh) => new Map(facesOfMesh(mesh).map((face) => [face.name, face]))

describe('faces of a mesh from elsewhere', () => {
  it('are its flats by the way they look, and its rounds by radius', () => {
    const faces = named(tubeMesh(24, 10, 15))
    expect([...faces.keys()]).toEqual(['top', 'bottom', 'round 1', 'bore 1'])
    expect(faces.get('top')!.frame.origin).toEqual([0, 0, 15])
    expect(faces.get('round 1')!.round).toBeCloseTo(12, 4)
    expect(faces.get('bore 1')!.round).toBeCloseTo(-5, 4)
    // As any round: touching it at the front, u across and v up.
    const { frame } = faces.get('bore 1')!
    expect(frame.origin.map((x) => Math.round(x * 1e4) / 1e4)).toEqual([0, 5, 7.5])
    expect([frame.u, frame.v, frame.n].map((d) => d.map((x) => Math.round(x) + 0))).toEqual([
      [1, 0, 0],
      [0, 0, 1],
      [0, -1, 0],
    ])
    expect([...named(boxMesh(40, 1 / 3, 25.4)).keys()].sort()).toEqual(
      ['back', 'bottom', 'front', 'left', 'right', 'top'].sort(),
    )
  })
  it('are named by where flats lie, the outermost first; by their size where that was how they were named', () => {
    // A tray: its floor is much larger than its rim; and a shelf in it, half way up.
    const [floor, rim, shelf] = [1.7, 21.3, 11.9]
    const parts = [
      boxMesh(80.3, 60.1, floor),
      movedMesh(boxMesh(3.1, 60.1, rim), [80.4, 0, 0]),
      movedMesh(boxMesh(9.1, 20.3, shelf), [-9.2, 0, 0]),
    ]
    const tray = joinedMesh(parts)
    const height = (name: string, names: 'place' | 'size') =>
      facesOfMesh(tray, names).find((face) => face.name === name)?.frame.origin[2]
    for (const [name, at] of [
      ['top', rim],
      ['top 2', shelf],
      ['top 3', floor],
    ] as const)
      expect(height(name, 'place')).toBeCloseTo(at, 4)
    expect(height('top', 'size')).toBeCloseTo(floor, 4)
    const names = facesOfMesh(tray).map((face) => face.name)
    expect(names.slice(0, 6)).toEqual(['top', 'bottom', 'right', 'left', 'back', 'front'])
    expect(new Set(names).size).toBe(names.length)
    expect(facesOfMesh(tray, 'size').filter((face) => /^flat \d+$/.test(face.name)).length).toBeGreaterThan(2)
  })
  it('keep their names in parts of before', () => {
    const old = step('m', 'mesh', { mesh: meshAsset(boxMesh(3, 2, 1)).hash })
    const part = { ...partOf([old]), assets: [meshAsset(boxMesh(3, 2, 1))] }
    const { names: _, ...fields } = old.fields
    const before = { ...part, pieces: [{ ...part.pieces[0]!, steps: [{ ...old, version: undefined, fields }] }] }
    const read = upgraded(readPartFile(JSON.stringify(before))).pieces[0]!.steps[0]!
    expect(read).toMatchObject({ version: 2, fields: { names: 'size' } })
    expect(old.fields).toMatchObject({ names: 'place' })
  })
  it('are flats of 4 mm² on a large mesh, and of a five hundredth of its surface on a small one', () => {
    const six = ['back', 'bottom', 'front', 'left', 'right', 'top']
    expect([...named(boxMesh(0.9, 1.1, 1 / 3)).keys()].sort()).toEqual(six)
    // Its narrow sides are 5.1 mm² of 45,000, and 3.4 mm² of as much.
    expect([...named(boxMesh(150, 150, 0.034)).keys()].sort()).toEqual(six)
    expect([...named(boxMesh(150, 150, 0.0227)).keys()].sort()).toEqual(['bottom', 'top'])
  })
  it('are the same, moved along, wherever and however the mesh lies', () => {
    const random = seeded(12)
    for (let i = 0; i < 60; i++) {
      const [outside, bore, height] = [12 + 40 * random(), 2 + 8 * random(), 1 + 30 * random()]
      const n = 16 + Math.floor(random() * 90)
      const axis: Vec3 = [random() - 0.5, random() - 0.5, random() - 0.5]
      const unit = axis.map((x) => x / norm(axis)) as unknown as Vec3
      const turn = turnedAbout([3, -2, 15.3], unit, 37.3 + 100 * random())
      const moved: Frame = compose({ origin: [85.1, -12.7, 4], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }, turn)
      const mesh = turnedMesh(tubeMesh(outside, bore, height, n), moved)
      const faces = facesOfMesh(mesh)
      const rounds = faces.flatMap(({ round }) => (round === undefined ? [] : [round])).sort((a, b) => a - b)
      expect(rounds.map((r) => Math.round(r * 500) / 500)).toEqual(
        [-bore / 2, outside / 2].map((r) => Math.round(r * 500) / 500),
      )
      expect(faces.filter(({ round }) => round === undefined)).toHaveLength(2)
      for (const { round, frame, size } of faces) {
        if (round === undefined) continue
        // Its axis is the one that was turned.
        const foot = subtract(frame.origin, frame.n.map((x) => x * round) as unknown as Vec3)
        expect(norm(subtract(foot, pointOut(moved, [0, 0, height / 2])))).toBeLessThan(2e-3)
        expect(size[1]).toBeCloseTo(height, 3)
      }
    }
  })
  it('leave out what is neither flat nor round, and find rounds between flats', () => {
    // Half a tube, closed by two flats: rounds of half a turn.
    const half = tubeMesh(24, 10, 15, 48)
    const positions = half.positions.map((x, i) => (i % 3 === 1 ? Math.max(x, 0) : x))
    const faces = facesOfMesh({ positions, triangles: half.triangles })
    expect(faces.map(({ name }) => name)).toContain('round 1')
    const cone = tubeMesh(24, 10, 15)
    const leaning = cone.positions.map((x, i) => (i % 3 === 2 ? x : x * (1 + cone.positions[i - (i % 3) + 2]! / 20)))
    expect(facesOfMesh({ positions: leaning, triangles: cone.triangles }).map(({ name }) => name)).toEqual([
      'top',
      'bottom',
    ])
  })
})

it('packs to the last digit of single precision, and refuses what is no mesh', () => {
  const mesh = movedMesh(tubeMesh(24.1, 1 / 3, 85.1), [15.3, -37.3, 1e-3])
  expect(unpackedMesh(packedMesh(mesh))).toEqual(mesh)
  const text = packedMesh(mesh)
  for (const broken of ['', 'data:model/mesh;base64,AAAA', `${text.slice(0, 60)}AAAA`, text.replace('model', 'image')])
    expect(() => unpackedMesh(broken)).toThrow(/cannot be read/)
})

describe('a mesh as a step', () => {
  const asset = meshAsset(tubeMesh(24, 10, 15))
  const housing = step('m', 'mesh', { mesh: asset.hash })
  const part = (...more: Parameters<typeof partOf>[0]): Part => partOf([housing, ...more], { assets: [asset] })
  const own = meshFigures(tubeMesh(24, 10, 15)).volume

  it('comes as it is, is cut, stood on, repeated, mirrored and turned', async () => {
    const plain = await built(kernel, part())
    expect(plain.problems).toEqual([])
    expect(plain.pieces[0]!.solid!.volume()).toBeCloseTo(own, 3)
    const hole = step('h', 'hole', { diameter: '4' }, { place: { ...onFace('m', 'round 1'), turn: '15.3' } })
    const cut = await built(kernel, part(hole), 0.002)
    expect(cut.problems).toEqual([])
    expect(cut.pieces[0]!.solid!.volume()).toBeLessThan(own - 2 * Math.PI * 4 * 6)
    const boss = step(
      'b',
      'bar',
      { diameter: '3', height: '4' },
      { place: { ...onFace('m', 'top'), across: { from: 'low', to: 'centre', by: '3' } } },
    )
    const stands = await built(kernel, part(boss), 0.002)
    expect(stands.problems).toEqual([])
    expect(stands.pieces[0]!.solid!.volume()).toBeCloseTo(own + Math.PI * 2.25 * 4, 1)
    const many = {
      ...housing,
      place: { ...housing.place, turn: '37.3', tilt: '21', lift: '12.7' },
      repeats: [repeat('row', { count: '2', spacing: '40' }), repeat('mirror', { at: '80' })],
    }
    const copies = await built(kernel, partOf([many], { assets: [asset] }))
    expect(copies.problems).toEqual([])
    expect(copies.pieces[0]!.solid!.volume()).toBeCloseTo(4 * own, 2)
    const { min } = copies.pieces[0]!.solid!.bounds()!
    expect(min[2]).toBeCloseTo(12.7, 3)
  })
  it('has names for its faces in the drawing, in every copy', async () => {
    const twice = { ...housing, repeats: [repeat('row', { count: '2', spacing: '40' })] }
    const done = await built(kernel, partOf([twice], { assets: [asset] }))
    const faces = renderMeshOf(done, done.pieces[0]!)!.faces.map(({ copy, face }) => `${copy} ${face}`)
    expect(faces.sort()).toEqual(
      [1, 2].flatMap((copy) => ['bore 1', 'bottom', 'round 1', 'top'].map((face) => `${copy} ${face}`)),
    )
  })
  it('travels in its file, goes with what is copied, and is let go with its last user', () => {
    const file = readPartFile(writePartFile(part()))
    expect(file).toEqual(part())
    expect(() => readPartFile(writePartFile({ ...part(), assets: [{ ...asset, hash: 'a'.repeat(64) }] }))).toThrow(
      /not what its hash says/,
    )
    const clip = clipOf(part(), ['m'], fieldKindOf)
    expect(clip.assets).toEqual([asset])
    let n = 0
    const edits = pasteEdits(partOf([]), clip, { piece: 'p1' }, () => `n${n++}`, fieldKindOf)
    const pasted = edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), partOf([]))
    expect(pasted.assets).toEqual([asset])
    expect(workOut(pasted).problems).toEqual([])
    const two = part({ ...housing, id: 'm2' })
    const one = applyEdit(two, { type: 'remove-steps', ids: ['m'], held: {} }, fieldKindOf)
    expect(one.assets).toHaveLength(1)
    expect(applyEdit(one, { type: 'remove-steps', ids: ['m2'], held: {} }, fieldKindOf).assets).toEqual([])
  })
  it('that is not here or broken is told on its line, and the rest is built', async () => {
    const plate = step('p', 'plate', { width: '20', depth: '20', height: '5' })
    const codes = async (steps: Parameters<typeof partOf>[0], assets: Part['assets']) =>
      (await built(kernel, partOf(steps, { assets }))).problems.map(({ code, path }) => [code, path[1]])
    expect(await codes([plate, housing], [])).toEqual([['asset-missing', 'm']])
    expect(await codes([plate, { ...housing, fields: {} }], [])).toEqual([['asset-choose', 'm']])
    const { hash } = meshAsset(boxMesh(1, 2, 3))
    const broken = { hash, name: 'x', data: 'data:model/mesh;base64,AAAA' }
    expect(await codes([plate, { ...housing, fields: { mesh: hash } }], [broken])).toEqual([['asset-broken', 'm']])
  })
})

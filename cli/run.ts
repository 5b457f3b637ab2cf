import { mkdir, readFile, writeFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { type Compensation, compensates, compensationFor, isMadeUp } from '@makrel/core/compensation'
import { type Part, type Piece, pieceOfBody } from '@makrel/core/document'
import {
  drawnFineness,
  type FileSize,
  type FileUnit,
  fileUnits,
  formatOf,
  formats,
  type HandOff,
  handOff,
  handOffVariants,
  inVariant,
  type MeshFormat,
  type StandingPart,
  type StoodFor,
  sizedWays,
  unitText,
  withCompensation,
} from '@makrel/core/exchange'
import { type CompiledLibrary, compileLibrary, Kernel, loadLibrary } from '@makrel/core/kernel'
import { lyingOf } from '@makrel/core/lying'
import { centreOf, meshFigures } from '@makrel/core/mesh'
import { poseToHandOff, printPoseOf } from '@makrel/core/planning'
import { ProblemError } from '@makrel/core/problems'
import { type Finding, plainValues, proofOf, solidFaults, worst } from '@makrel/core/proof'
import { Builder, type Built, figuresOf, inPose, Measurer, type TwiceBuilt } from '@makrel/core/solids'
import { Unreadable } from '@makrel/threads'
import { InputError } from './input.ts'
import { measuredMesh, readPart } from './read.ts'

const usage = `makrel — builds and inspects part files

  makrel build FILE --format ${formats.map(({ id }) => id).join('|')} --out DIR [--fineness MM] [--piece NAME]
               several formats with commas between them: a file of each, built once
               [--variant NAME | --variants]     one variant, or a file of each
               [--pose NAME | --pose drawn]      else in the pose that the part is printed in
               [--made-up | --as-drawn]     with what the part's printer and material do made up for, or not; where
                               neither is said, it is where these were measured
               [--faulty]      written also where the proof has a fault; else it is not
               [--unit ${fileUnits.map(({ id }) => id).join('|')}]      what the numbers of the file are; mm where none is said
               [--scale FACTOR | --width MM | --depth MM | --height MM]
                               so many times as large as it is drawn, or of a size along one way; it is proved as drawn
  makrel proof FILE [--fineness MM]        FILE may also be a mesh (${formats.map(({ extension }) => `.${extension}`).join(', ')})
  makrel lie FILE [--fineness MM]          how each piece could lie on the bed, the best way first: what hangs, height, contact, rounds upright
  makrel backup FILE                       copies all parts that the server keeps, also while it runs

Build and proof print one JSON report on standard output. Exit code: 0 sound, 1 with findings of rank fault, 2 on bad input.
A part with a fault is not written but for --faulty; one that is only too large for the chosen printer is, and its build ends with 0.
`

/** What the pose is called that a part is drawn in. */
const asDrawn = 'drawn'

interface Wanted {
  readonly file: string
  readonly fineness: number
}

/** One command line, told on standard output and error; returns its exit code. */
export async function main(args: readonly string[]): Promise<number> {
  try {
    return await run(args)
  } catch (error) {
    if (![InputError, ProblemError, Unreadable].some((kind) => error instanceof kind)) throw error
    process.stderr.write(`makrel: ${(error as Error).message}\n`)
    return 2
  }
}

async function run(args: readonly string[]): Promise<number> {
  const { values, positionals } = arguments_(args)
  const [command, file, ...more] = positionals
  if (values.help || !command) {
    process.stdout.write(usage)
    return values.help ? 0 : 2
  }
  if (!file || more.length > 0) throw new InputError(`give one part file\n\n${usage}`)
  const wanted: Wanted = { file, fineness: finenessOf(values.fineness) }
  if (command === 'proof') return proof(wanted)
  if (command === 'lie') return lie(wanted)
  if (command === 'build') return build(wanted, values)
  throw new InputError(`there is no command “${command}”\n\n${usage}`)
}

function arguments_(args: readonly string[]) {
  try {
    return parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        format: { type: 'string' },
        out: { type: 'string' },
        fineness: { type: 'string' },
        piece: { type: 'string' },
        pose: { type: 'string' },
        variant: { type: 'string' },
        variants: { type: 'boolean' },
        'made-up': { type: 'boolean' },
        'as-drawn': { type: 'boolean' },
        faulty: { type: 'boolean' },
        unit: { type: 'string' },
        scale: { type: 'string' },
        width: { type: 'string' },
        depth: { type: 'string' },
        height: { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    })
  } catch (error) {
    throw new InputError(`${(error as Error).message}\n\n${usage}`)
  }
}

function finenessOf(text: string | undefined): number {
  if (text === undefined) return 0.02
  const value = Number(text)
  if (!(value >= 0.001 && value <= 1)) throw new InputError(`--fineness must be from 0.001 to 1 mm, not “${text}”`)
  return value
}

/** All ways in which what is printed together can lie, the best first. */
async function lie(wanted: Wanted): Promise<number> {
  return withKernel(async (kernel, builder) => {
    const built = await builder.build(await readPart(wanted.file), { fineness: wanted.fineness })
    const found = await lyingOf(kernel, built)
    const nameOf = (id: string) => pieceOfBody(built.resolved.part, id)?.name ?? id
    report({
      part: built.resolved.part.name,
      printer: built.resolved.printer.name,
      fineness: wanted.fineness,
      lying: found.map(({ pieces, ways }) => ({ pieces: pieces.map(nameOf), ways })),
    })
    return 0
  })
}

async function proof(wanted: Wanted): Promise<number> {
  const mesh = formats.find(({ extension }) => wanted.file.toLowerCase().endsWith(`.${extension}`))
  if (mesh) return meshProof(wanted.file, mesh)
  return withBuilt(wanted, async (kernel, built, twice) => {
    const trials = new Builder(kernel)
    const build = (part: Part) => trials.build(part, { fineness: wanted.fineness })
    const findings = await proofOf(kernel, built, { twice, build })
    report({ ...summary(built, twice), fineness: wanted.fineness, findings: findings.map(reported) })
    return exitCode(findings)
  })
}

/** A mesh from anywhere, measured as the reader finds it. */
async function meshProof(file: string, format: MeshFormat): Promise<number> {
  const pieces = await measuredMesh(file, format)
  report({ file, format: format.id, unit: unitText(format), pieces })
  return pieces.every(({ oriented }) => oriented) ? 0 : 1
}

interface BuildValues {
  readonly format?: string
  readonly out?: string
  readonly piece?: string
  readonly pose?: string
  readonly variant?: string
  readonly variants?: boolean
  readonly 'made-up'?: boolean
  readonly 'as-drawn'?: boolean
  readonly faulty?: boolean
  readonly unit?: string
  readonly scale?: string
  readonly width?: string
  readonly depth?: string
  readonly height?: string
}

async function build(wanted: Wanted, values: BuildValues): Promise<number> {
  const chosenFormats = (values.format ?? '').split(',').map(formatNamed)
  if (!values.out) throw new InputError('--out names the folder to write to')
  const out = values.out
  const { fineness } = wanted
  return withKernel(async (kernel, builder, measurer) => {
    const part = await readPart(wanted.file)
    const pose = poseToHandOff(part, values.pose && poseNamed(part, values.pose))
    const compensation = wantedCompensation(part, values)
    const [size, unit] = [wantedSize(values), wantedUnit(values)]
    const write = async ({ bytes, receipt }: HandOff) => {
      const path = join(out, receipt.file)
      await writing(out, async () => {
        await mkdir(out, { recursive: true })
        await writeFile(path, bytes)
      })
      return { written: path, receipt: plainReceipt(receipt) }
    }
    /** Files of one solid written, with what is to be told of it. */
    const written = async (files: readonly HandOff[], { built, twice, compensated }: StandingPart) => {
      const findings = await proofOf(kernel, compensated?.built ?? built, { twice })
      const isGiven = values.faulty || solidFaults(findings).length === 0
      const told = isGiven
        ? await Promise.all(files.map(write))
        : files.map(({ receipt }) => ({ receipt: plainReceipt(receipt) }))
      const where = told.length === 1 ? told[0] : { files: told }
      return { ...summary(built, twice), fineness, ...where, findings: findings.map(reported) }
    }
    const make = async (each: Part) => {
      const twice = await measurer.twice(each)
      const piece = size && pieceOf(twice.fine)
      return {
        built: await builder.build(each, {
          fineness: await drawnFineness(kernel, pose, twice, { fineness, size, piece }),
        }),
        twice,
      }
    }
    /** By its name or id, with those that a step parts others into. */
    const pieceOf = (built: Built) =>
      values.piece === undefined
        ? undefined
        : pieceNamed(
            built.pieces.flatMap(({ piece, holds = [] }) => [piece, ...holds]),
            values.piece,
          )
    if (values.variants) {
      if (part.variants.length === 0) throw new InputError('this part has no variants')
      const piece = pieceOf(await builder.build(part, { fineness }))
      const variants: Awaited<ReturnType<typeof written>>[] = []
      const options = { fineness, piece, pose: pose?.name, size, unit }
      const stand: StoodFor = async (of, use) =>
        inPose(kernel, pose, await make(of), (standing) =>
          withCompensation(kernel, standing.built, { piece, compensation, size }, (compensated) =>
            use({ ...standing, compensated }),
          ),
        )
      for (const format of chosenFormats)
        await handOffVariants(part, stand, format, options, async (file, standing) => {
          variants.push(await written([file], standing))
        })
      report({ part: part.name, variants })
      return solidFaults(variants.flatMap(({ findings }) => findings)).length > 0 ? 1 : 0
    }
    const chosen = values.variant === undefined ? part : inVariant(part, variantNamed(part, values.variant))
    return inPose(kernel, pose, await make(chosen), ({ built, twice }) => {
      const piece = pieceOf(built)
      return withCompensation(kernel, built, { piece, compensation, size }, async (compensated) => {
        const standing = { built, twice, compensated }
        const options = { fineness, piece, pose: pose?.name, size, unit, ...standing }
        const files = chosenFormats.map((format) => handOff(built, format, options))
        const told = await written(files, standing)
        report(told)
        return solidFaults(told.findings).length > 0 ? 1 : 0
      })
    })
  })
}

/** What files of a part make up for: what is asked for, else what was measured. */
function wantedCompensation(part: Part, values: BuildValues): Compensation | undefined {
  if (values['made-up'] && values['as-drawn']) throw new InputError('--made-up and --as-drawn contradict each other')
  const compensation = compensationFor(part)
  const isWanted = values['made-up'] || (!values['as-drawn'] && isMadeUp(part))
  return isWanted && compensates(compensation) ? compensation : undefined
}

/** How large files are, where they are not as drawn. */
function wantedSize(values: BuildValues): FileSize | undefined {
  const told = (['scale', ...sizedWays] as const).filter((name) => values[name] !== undefined)
  const [name, ...more] = told
  if (!name) return undefined
  if (more.length > 0) throw new InputError(`--${name} and --${more[0]} contradict each other`)
  const value = values[name]!.trim() === '' ? Number.NaN : Number(values[name])
  if (!(value > 0) || !Number.isFinite(value))
    throw new InputError(`--${name} must be a number above 0, not “${values[name]}”`)
  return name === 'scale' ? { by: 'factor', factor: value } : { by: name, mm: value }
}

function wantedUnit({ unit = 'mm' }: BuildValues): FileUnit {
  const found = fileUnits.find(({ id }) => id === unit)
  if (!found) throw new InputError(`--unit must be one of ${fileUnits.map(({ id }) => id).join(', ')}`)
  return found.id
}

function formatNamed(name: string): MeshFormat {
  const format = formatOf(name.trim())
  if (!format) throw new InputError(`--format must be one of ${formats.map(({ id }) => id).join(', ')}`)
  return format
}

function poseNamed(part: Part, name: string): string {
  const pose = part.poses.find((candidate) => candidate.name === name || candidate.id === name)
  if (pose) return pose.id
  if (name === asDrawn) return ''
  const known = [asDrawn, ...part.poses.map((other) => other.name)].join(', ')
  throw new InputError(`there is no pose “${name}”; there are: ${known}`)
}

function variantNamed(part: Part, name: string): string {
  const variant = part.variants.find((candidate) => candidate.name === name || candidate.id === name)
  if (variant) return variant.id
  const known = part.variants.map((other) => other.name).join(', ') || 'none'
  throw new InputError(`there is no variant “${name}”; there are: ${known}`)
}

async function writing(out: string, work: () => Promise<void>): Promise<void> {
  try {
    await work()
  } catch (error) {
    throw new InputError(`cannot write to ${out}: ${(error as Error).message}`)
  }
}

async function withBuilt(
  wanted: Wanted,
  use: (kernel: Kernel, built: Built, twice: TwiceBuilt) => Promise<number>,
): Promise<number> {
  return withKernel(async (kernel, builder, measurer) => {
    const part = await readPart(wanted.file)
    const drawn = {
      built: await builder.build(part, { fineness: wanted.fineness }),
      twice: await measurer.twice(part),
    }
    return inPose(kernel, printPoseOf(part), drawn, ({ built, twice }) => use(kernel, built, twice))
  })
}

let library: Promise<CompiledLibrary> | undefined

/** The solid library, compiled once in a process, whatever the number of command lines that it runs. */
async function compiled(): Promise<CompiledLibrary> {
  return compileLibrary(await readFile(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm')))
}

async function withKernel(
  use: (kernel: Kernel, builder: Builder, measurer: Measurer) => Promise<number>,
): Promise<number> {
  library ??= compiled()
  const kernel = new Kernel(await loadLibrary(await library))
  const builder = new Builder(kernel)
  const measurer = new Measurer(kernel)
  try {
    return await use(kernel, builder, measurer)
  } finally {
    measurer.clear()
    builder.clear()
  }
}

function pieceNamed(pieces: readonly Piece[], name: string): string {
  const piece = pieces.find((candidate) => candidate.name === name || candidate.id === name)
  if (piece) return piece.id
  throw new InputError(`there is no piece “${name}”; there are: ${pieces.map((other) => other.name).join(', ')}`)
}

/** Volume, area and centre are those of the solid as it is meant; `mesh` is what its triangles come to. */
function summary(built: Built, twice: TwiceBuilt) {
  const meant = figuresOf(twice)
  return {
    part: built.resolved.part.name,
    unit: 'mm',
    pieces: built.pieces.map(({ piece, solid }) => {
      const figures = solid && meshFigures(solid.mesh())
      return {
        name: piece.name,
        bounds: figures ? { min: figures.min, max: figures.max } : null,
        volume: meant[piece.id]?.mass.volume ?? 0,
        area: meant[piece.id]?.mass.area ?? 0,
        centreOfMass: (meant[piece.id] && centreOf(meant[piece.id]!.mass)) ?? null,
        way: meant[piece.id]?.way ?? 'exact',
        error: meant[piece.id]?.error ?? null,
        mesh: { volume: solid?.volume() ?? 0, area: solid?.area() ?? 0 },
        triangles: figures?.triangles ?? 0,
        solids: figures?.solids ?? 0,
        cavities: figures?.cavities ?? [],
        closed: figures?.closed ?? false,
        oriented: figures?.oriented ?? false,
      }
    }),
  }
}

/** A receipt without what is drawn of it. */
function plainReceipt({ compensation, ...rest }: HandOff['receipt']) {
  const stayed = compensation?.stayed.map(({ triangles: _, ...each }) => each)
  return { ...rest, ...(compensation && { compensation: { ...compensation, stayed } }) }
}

/** What a report says of a finding: where it is drawn, and how it is edited, are the page's. */
function reported({ check, code, rank, text, values, about, ofPrinter, cures, tried, aside }: Finding) {
  return {
    ...{ check, code, rank, text, values: plainValues(values), about },
    ...(ofPrinter ? { ofPrinter } : {}),
    ...(tried ? { tried } : {}),
    ...(aside ? { setAside: aside.reason } : {}),
    ...(cures ? { cures: cures.map(({ label, before, after }) => ({ label, before, after })) } : {}),
  }
}

function report(data: unknown): void {
  process.stdout.write(`${JSON.stringify(data, null, 2)}\n`)
}

function exitCode(findings: readonly Pick<Finding, 'rank' | 'aside'>[]): number {
  return worst(findings) === 'fault' ? 1 : 0
}

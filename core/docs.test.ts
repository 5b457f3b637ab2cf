import { readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { drawingFormats, formats } from './exchange/index.ts'
import type { FieldDefinition, Fields } from './fields/index.ts'
import { fitMeanings, fitNames, shippedMaterials, shippedPrinters } from './fits/index.ts'
import {
  clearanceHole,
  clearances,
  families,
  itemsOf,
  metricCoarse,
  minorDiameter,
  pitchDiameter,
  unifiedCoarse,
} from './hardware/index.ts'
import { joints } from './joints/index.ts'
import { functions } from './measures/index.ts'
import { operations } from './operations/index.ts'
import {
  type ConstraintDefinition,
  constraints,
  curves,
  type DerivedDefinition,
  derivedKinds,
} from './outline/index.ts'

import { problemTexts } from './problems/index.ts'
import { checks } from './proof/index.ts'
import { readouts } from './readouts/index.ts'
import { repeats } from './repeats/index.ts'
import { shapes } from './shapes/index.ts'
import { angleUnits, lengthUnits } from './units/index.ts'

/** The reference is written from the registries: `npm run docs` writes it, the test compares it. */
const file = fileURLToPath(new URL('../docs/reference.md', import.meta.url))

function fieldRows(fields: Fields): string {
  return Object.entries(fields)
    .map(([name, field]) => {
      return `| \`${name}\` | ${field.kind} | \`${field.default}\` | ${allowed(field)} | ${field.meaning} |`
    })
    .join('\n')
}

function allowed(field: FieldDefinition): string {
  if (field.kind === 'choice') return Object.keys(field.choices).join(', ')
  if (field.kind === 'text') return `at most ${field.most} characters`
  if (field.kind === 'corners') return `${field.least} to ${field.most} corners`
  if (field.kind === 'outline')
    return field.lines ? 'an outline of the part' : 'an outline of the part, or regions of it'
  if (field.kind === 'axis') return 'a straight line of the outline, `x-axis` or `y-axis`'
  if (field.kind === 'sections') return `${field.least} to ${field.most} outlines with their heights`
  if (field.kind === 'edges') return 'rules, each of which finds edges or leaves some out'
  if (field.kind === 'faces') return 'faces of steps'
  if (field.kind === 'faceSizes') return 'faces of steps, each with a length'
  if (field.kind === 'plane') return 'a direction of the bed, a flat face or a datum, with a distance'
  if (field.kind === 'item') return `an item: ${field.of.join(', ')}`
  if (field.kind === 'asset') return 'a mesh of the part'
  if (field.kind === 'step') return field.of ? `a step: ${field.of.join(', ')}` : 'a step'
  return limits(field)
}

function limits({ least, above, most }: { least?: number; above?: number; most?: number }): string {
  const low = above !== undefined ? `> ${above}` : least !== undefined ? `≥ ${least}` : ''
  return [low, most === undefined ? '' : `≤ ${most}`].filter(Boolean).join(', ')
}

const refWords = { point: 'point', line: 'line', round: 'circle or arc', bent: 'ellipse or curve' } as const

const fieldHead = '| field | kind | default | values | meaning |\n|---|---|---|---|---|'

function reference(): string {
  return `# Reference

Written from the registries by \`npm run docs\`; a test compares it with them. Lengths are mm and angles degrees.

## Shapes
${shapes
  .map(
    (shape) => `
### ${shape.label} (\`${shape.kind}\`)
${shape.seat === 'enters' ? 'Enters the face it is placed on.' : 'Stands on the face it is placed on.'} New ones ${shape.operation}. Also found as: ${shape.words.map((word) => (typeof word === 'string' ? word : word.word)).join(', ')}. Typed behind its name: ${shape.quick.map((quick) => (typeof quick === 'string' ? quick : quick.field)).join(', ')}.

${fieldHead}
${fieldRows(shape.fields)}
`,
  )
  .join('')}
## Treatments
Steps without a body of their own: they work on what stands so far.
${operations
  .flatMap((each) => (each.acts === 'alone' ? [each] : []))
  .map(
    (treatment) => `
### ${treatment.label} (\`${treatment.kind}\`)
${treatment.hint[0]!.toUpperCase()}${treatment.hint.slice(1)}. Also found as: ${treatment.words.join(', ')}. Typed behind its name: ${treatment.quick.join(', ')}.

${fieldHead}
${fieldRows(treatment.fields)}
`,
  )
  .join('')}
Edges are chosen by rules between semicolons, each of which adds what it finds, or with \`less\` leaves it out again: \`all\`, \`of step/face\`,
\`of step\`, \`where step/face meets step/face\`, \`rims step\`, \`edge name\`; before that \`outer\`, \`inner\`, \`upright\`, \`level\` or \`bed\`.

## Repeats
Behind a place: copies of a step. In the fields of a repeated step, \`copy\` is the number of the copy from 1, \`copies\` how
many there are, and \`copy1\`, \`copy2\`, \`copy3\` the number within the first, second and third repeat.
${repeats
  .map(
    (repeat) => `
### ${repeat.label} (\`${repeat.kind}\`)

${fieldHead}
${fieldRows(repeat.fields)}
`,
  )
  .join('')}
## Outlines
Drawings that shapes are made from. \`origin\`, \`x-axis\` and \`y-axis\` are in each of them.

| curve | points | meaning |
|---|---|---|
${curves.map(({ kind, label, points, meaning }) => `| ${label} (\`${kind}\`) | ${points.least === points.most ? points.least : `${points.least} to ${points.most}`} | ${meaning} |`).join('\n')}

| constraint | value | put on | meaning |
|---|---|---|---|
${constraints.map((each: ConstraintDefinition) => `| ${each.label} (\`${each.kind}\`) | ${each.value ?? ''} | ${each.takes.map((kinds) => kinds.map((kind) => refWords[kind]).join(', ')).join('; ')} | ${each.meaning} |`).join('\n')}
${derivedKinds
  .map(
    (each: DerivedDefinition) => `
### ${each.label} (\`${each.kind}\`), derived
${each.meaning} Put on ${each.takes}.
${Object.keys(each.fields).length === 0 ? '' : `\n${fieldHead}\n${fieldRows(each.fields)}\n`}`,
  )
  .join('')}
## Read-outs

| read-out | of | meaning |
|---|---|---|
${readouts.map(({ kind, label, takes, from, meaning }) => `| ${label} (\`${kind}\`) | ${takes === 1 ? 'one place' : 'two places'}${from === 'solid' ? ', on the finished solid' : ''} | ${meaning} |`).join('\n')}

## Joints
${joints
  .map(
    (joint) => `
### ${joint.label} (\`${joint.kind}\`)

${fieldHead}
${fieldRows(joint.fields)}
`,
  )
  .join('')}
## Checks

What a check finds has a rank. A **fault** would not print as it is meant: it must be mended, and \`makrel build\` and \`makrel proof\` end with exit code 1. A **warning** may fail in use, or could not be measured; an **advice** says what would be better; a **pass** says what was shown to be good. These end with 0.

| check | what it looks at |
|---|---|
${checks.map((check) => `| ${check.label} (\`${check.id}\`) | ${check.meaning} |`).join('\n')}

What they find has a code, and values that stand in its text; programs are given them as numbers in mm, mm² and mm³.

| code | text |
|---|---|
${checks
  .flatMap(({ texts }) => Object.entries(texts))
  .map(([code, text]) => `| \`${code}\` | ${text.trim()} |`)
  .join('\n')}

## Mesh formats

| format | extension | unit |
|---|---|---|
${formats.map((format) => `| ${format.label} | .${format.extension} | ${format.statesUnit ? 'stated in the file' : 'not stated in the file'} |`).join('\n')}

## Formats of flat drawings

| format | extension |
|---|---|
${drawingFormats.map((format) => `| ${format.label} | .${format.extension} |`).join('\n')}

## Expressions
Units of length: ${Object.keys(lengthUnits)
    .map((unit) => `\`${unit}\``)
    .join(' ')}. Units of angle: ${Object.keys(angleUnits)
    .map((unit) => `\`${unit}\``)
    .join(' ')}. Operators: \`+ − * × · / ÷ ^\`. Functions: ${Object.keys(functions)
    .map((name) => `\`${name}\``)
    .join(' ')}. The constant \`pi\`, the names of measures, and the names of fits.

## Fits
A gap per side, in mm.

| fit | meaning | ${shippedPrinters.map(({ name }) => `${name}, round | flat`).join(' | ')} |
|---|---|${shippedPrinters.map(() => '---|---|').join('')}
${fitNames.map((fit) => `| ${fit} | ${fitMeanings[fit]} | ${shippedPrinters.map(({ fits }) => `${fits[fit].round.gap} | ${fits[fit].flat.gap}`).join(' | ')} |`).join('\n')}

## Printers

Those that ship; each workshop adds its own. Lengths in mm.

| printer | bed | line width | layer height | first layer | least gap | least layers between | overhang | bridge | walls too thick | round holes too small | first layer flares |
|---|---|---|---|---|---|---|---|---|---|---|---|
${shippedPrinters.map((p) => `| ${[p.name, p.bed.join(' × '), p.lineWidth, p.layerHeight, p.firstLayer, p.leastGap, p.leastLayers, `${p.overhang}°`, p.bridge, p.outsideOffset, p.holeOffset, p.flare].join(' | ')} |`).join('\n')}

## Materials

| material | density, g/cm³ | price per kg | shrinks, % | stiffness, MPa | strain once, % | strain often, % | between layers, % | softens at, °C |
|---|---|---|---|---|---|---|---|---|
${shippedMaterials.map((m) => `| ${[m.name, m.density, m.price, m.shrinkage, m.stiffness, m.strainOnce, m.strainOften, m.acrossLayers, m.keepsForm].join(' | ')} |`).join('\n')}

## Problems

| code | text |
|---|---|
${Object.entries(problemTexts)
  .map(([code, text]) => `| \`${code}\` | ${text.replaceAll('|', '\\|')} |`)
  .join('\n')}
`
}

const hardwareFile = fileURLToPath(new URL('../docs/hardware.md', import.meta.url))

/** To a thousandth of a mm, as tables in inches come to. */
const told = (mm: number) => String(Math.round(mm * 1000) / 1000)

/** Every item with its sizes, and where they are from. */
function hardware(): string {
  const threads = Object.entries({ ...metricCoarse, ...unifiedCoarse })
  return `# Hardware

Written from the tables by \`npm run docs\`; a test compares it with them. All sizes are in mm.

Each table says which standard it is from, with the edition as far as it is known; sizes are those that the standard lists as nominal or as the largest, which is what a hole has to take. Rows that we weren’t sure of are left out. *Usual size* means that no standard says what is sold: measure yours.
${families
  .map((family) => {
    const items = itemsOf(family)
    const columns = Object.keys(items[0]!.sizes)
    return `
## ${family.label[0]!.toUpperCase()}${family.label.slice(1)} (\`${family.id}\`)
${family.standard}${family.unit === 'in' ? ', whose table is in inches' : ''}. Also found as: ${family.words.join(', ')}. ${Object.entries(
      family.columns,
    )
      .map(([name, meaning]) => `\`${name}\`: ${meaning}`)
      .join('; ')}.

| size | ${columns.join(' | ')} |
|---|${columns.map(() => '---|').join('')}
${items.map(({ size, sizes }) => `| ${size} | ${columns.map((name) => told(sizes[name]!)).join(' | ')} |`).join('\n')}
`
  })
  .join('')}
## Holes for threads
Clearance: ISO 273:1979 (fine, medium and coarse series), ASME B18.2.8-1999. Drill for the thread: its diameter less its pitch, ISO 2306. Pitch and minor diameters: ISO 68-1:1998.

| thread | pitch | pitch diameter | minor diameter | drill | ${clearances.join(' | ')} |
|---|---|---|---|---|${clearances.map(() => '---|').join('')}
${threads
  .map(([size, thread]) => {
    const holes = clearances.map((clearance) => clearanceHole(thread, clearance))
    const own = [thread.pitch, pitchDiameter(thread), minorDiameter(thread), thread.thread - thread.pitch]
    return `| ${size} | ${own.map(told).join(' | ')} | ${holes.map((hole) => (hole === undefined ? '' : told(hole))).join(' | ')} |`
  })
  .join('\n')}
`
}

describe.each([
  ['the reference', file, reference],
  ['the hardware page', hardwareFile, hardware],
] as const)('%s', (_, at, written) => {
  it('is what the registries say', () => {
    if (process.env.MAKREL_WRITE_DOCS) writeFileSync(at, written())
    expect(readFileSync(at, 'utf8')).toBe(written())
  })
})

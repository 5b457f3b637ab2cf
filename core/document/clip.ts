import { assetsUsed } from './assets.ts'
import type { Edit } from './edits/index.ts'
import { usesOfNames } from './expressions.ts'
import type { FieldKindOf, Part, Step } from './format.ts'
import { newPart, onBed } from './new.ts'
import { outlinesOf, withOutlines } from './outlines.ts'
import { mapFields, mapOutline, mapReferences, ownerOf, renewed } from './references.ts'
import { contentOf, flattened, hasBody, withContent, withContents } from './tree.ts'
import { inUnitOf } from './unit.ts'

/**
 * Steps on their way from one part to another: a part of one piece, with the outlines that they are made from, the measures
 * that they read and those that these read. As a part file it is what the clipboard holds, and is checked by the same reader.
 */
export function clipOf(part: Part, ids: readonly string[], kindOf: FieldKindOf): Part {
  const wanted = new Set(ids)
  const steps = part.pieces.flatMap((piece) => chosen(piece.steps, wanted))
  const owners = new Set<string>(withContents(part, wanted))
  const drawings = new Set(steps.flatMap((step) => outlinesOf(step, kindOf)))
  for (const id of drawings) owners.add(id)
  const uses = usesOfNames(part, kindOf)
  // Each measure that is read may read others.
  for (let grown = true; grown; ) {
    grown = false
    for (const measure of part.measures) {
      if (owners.has(measure.id) || !uses.get(measure.name)?.some((user) => owners.has(user))) continue
      owners.add(measure.id)
      grown = true
    }
  }
  const plain = newPart({ part: 'clip', piece: 'clip' }, part.name)
  const clip: Part = {
    ...plain,
    unit: part.unit,
    measures: part.measures.filter(({ id }) => owners.has(id)),
    outlines: part.outlines.filter(({ id }) => drawings.has(id)),
    pieces: [{ ...plain.pieces[0]!, steps }],
  }
  const used = assetsUsed(clip, kindOf)
  return { ...clip, assets: part.assets.filter(({ hash }) => used.has(hash)) }
}

/** The wanted steps, those within bundles too; what lies in a wanted bundle comes with it. */
function chosen(steps: readonly Step[], wanted: ReadonlySet<string>): Step[] {
  return steps.flatMap((step) => (wanted.has(step.id) ? [step] : chosen(contentOf(step), wanted)))
}

/**
 * What puts the steps of a clip into a part: measures whose names it does not have, and the steps under new ids, behind
 * `after` or at the end of the piece. What a step stood on is kept where the part has it, else the step comes to the bed.
 */
export function pasteEdits(
  part: Part,
  clip: Part,
  target: { readonly piece: string; readonly after?: string | undefined },
  newId: () => string,
  kindOf: FieldKindOf,
): readonly Edit[] {
  // What cannot be read has no size that could change.
  const source = inUnitOf(clip, part.unit, kindOf).part
  const named = new Set(part.measures.map((measure) => measure.name))
  const measures = source.measures
    .filter((measure) => !named.has(measure.name))
    .map((measure): Edit => ({ type: 'add-measure', measure: { ...measure, id: newId() } }))
  const known = new Set(part.pieces.flatMap((piece) => flattened(piece.steps)).map((step) => step.id))
  const steps = source.pieces.flatMap((piece) => piece.steps)
  const ids = new Map(steps.map((step) => [step.id, newId()]))
  let { after } = target
  // An outline that the part has is used; one that only has its id comes under another.
  const drawings = source.outlines.map((outline) => {
    const there = part.outlines.find(({ id }) => id === outline.id)
    const same = there !== undefined && JSON.stringify(there) === JSON.stringify(outline)
    // What it picked up from a step that is not here is told as gone, where it is shown.
    const told = mapOutline(outline, (id) => ids.get(id) ?? (known.has(id) ? id : undefined))
    return { from: outline.id, same, outline: { ...told, id: same || !there ? outline.id : newId() } }
  })
  const drawing = new Map(drawings.map(({ from, outline }) => [from, outline.id]))
  const drawnHere = (step: Step) =>
    withOutlines(step, (chosen) => ({ ...chosen, outline: drawing.get(chosen.outline) ?? chosen.outline }), kindOf)
  return [
    ...source.assets.map((asset): Edit => ({ type: 'add-asset', asset })),
    ...measures,
    ...drawings.flatMap(({ same, outline }): Edit[] => (same ? [] : [{ type: 'add-outline', outline }])),
    ...steps.map((step): Edit => {
      const own = new Set(flattened([step]).map(({ id }) => id))
      const here = (id: string) => (own.has(id) || known.has(id) ? id : undefined)
      const reference = (id: string) => ids.get(id) ?? here(id)
      const edit: Edit = {
        type: 'add-step',
        piece: target.piece,
        after,
        step: renewed(reseated(drawnHere(step), reference, kindOf), ids.get(step.id)!, kindOf),
      }
      after = ids.get(step.id)
      return edit
    }),
  ]
}

/** A step and what it holds told by other steps; on the bed there are no edges to measure from. */
function reseated(step: Step, reference: (id: string) => string | undefined, kindOf: FieldKindOf): Step {
  const held = withContent(step, (steps) => steps.map((inner) => reseated(inner, reference, kindOf)))
  // What a field names and did not come along is told there as gone.
  const own = { ...held, fields: mapFields(ownerOf(held), held.fields, { step: reference }, kindOf) }
  if (!hasBody(own)) return own
  const told = mapReferences(own.place, reference)
  const toBed = told.on.kind === 'bed' && own.place.on.kind !== 'bed'
  const place = toBed ? { ...told, across: onBed.across, along: onBed.along } : told
  return { ...own, place }
}

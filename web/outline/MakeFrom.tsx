import { findStep, type Outline, type Place, type Step } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { newStep, type ShapeDefinition, shapes } from '@makrel/core/shapes'
import type { PartUnit } from '@makrel/core/units'
import { useNavigate } from 'react-router'
import { newId } from '../ids.ts'
import { ShapeIcon } from '../make/ShapeIcon.tsx'
import { usePart } from '../state/part.ts'
import { SheetSection } from './SheetSection.tsx'

/** What can be made of this outline: a step that stands where it was drawn. */
export function MakeFrom({ outline }: { readonly outline: Outline }) {
  const navigate = useNavigate()
  const make = (shape: ShapeDefinition) => {
    const { part, edit, select } = usePart.getState()
    if (!part) return
    const id = newId()
    edit({ type: 'add-step', piece: pieceFor(part, outline), step: stepFrom(id, shape, outline, part.unit) })
    select({ kind: 'step', id })
    void navigate(`/part/${part.id}/make`)
  }
  return (
    <SheetSection title="Make a solid">
      <div className="grid grid-cols-4 gap-1">
        {shapes
          .filter((shape: ShapeDefinition) => shape.shelf === 'outlines')
          .map((shape) => (
            <button
              key={shape.kind}
              type="button"
              onClick={() => make(shape)}
              className="flex flex-col items-center gap-0.5 rounded-sm px-1 py-1.5 hover:bg-mackerel-wash hover:text-mackerel"
            >
              <ShapeIcon shape={shape} />
              <span className="text-center text-xs">{shape.label}</span>
            </button>
          ))}
      </div>
    </SheetSection>
  )
}

/** The piece of the step that it was drawn on, or the first one. */
function pieceFor(part: NonNullable<ReturnType<typeof usePart.getState>['part']>, { on }: Outline): string {
  return ((on.kind === 'face' && findStep(part, on.step)?.piece.id) || part.pieces[0]!.id) as string
}

/** A step of a shape that is made from this outline, where the outline was drawn. */
export function stepFrom(id: string, shape: ShapeDefinition, outline: Outline, unit: PartUnit): Step {
  const fields = { ...defaultFields(shape.fields, unit) }
  const first = Object.entries(shape.fields).find(([, field]) => field.kind === 'outline')
  if (first) fields[first[0]] = outline.id
  else if ('sections' in shape.fields) fields.sections = `${outline.id}, 0`
  const step = newStep(id, { shape, fields })
  const own = { from: 'centre', to: 'own', by: '0' } as const
  const place: Place = { ...step.place, on: outline.on, ...(shape.drawn ? { across: own, along: own } : {}) }
  return { ...step, place }
}

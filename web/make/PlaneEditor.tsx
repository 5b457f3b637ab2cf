import type { Part } from '@makrel/core/document'
import { type PlaneField, type PlaneOf, planeAxes, planeText, planeTextOf } from '@makrel/core/fields'
import type { Plan } from '@makrel/core/planning'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { Lit } from '../viewport/Lit.tsx'
import { faceOf, faceValue, faceWords } from './edgeWords.ts'
import type { EditorProps } from './editors.tsx'
import { seatOptions } from './seats.ts'
import { ValueField } from './ValueField.tsx'

const axisWords = { x: 'left and right', y: 'front and back', z: 'below and above' } as const

/** A plane: across a direction of the bed at a distance from its middle, or along a flat face at a distance beyond it. */
export function PlaneEditor({ definition, text, step, names, fault, onChange, ...focus }: EditorProps<PlaneField>) {
  const part = usePart((state) => state.part!)
  const { of, at } = planeText(text)
  const isFace = 'face' in of
  return (
    <>
      <Lit of={isFace ? { kind: 'step', id: of.face.step, face: of.face.face } : undefined}>
        <Choice
          label={definition.label}
          value={optionOf(of)}
          shown={isFace ? `along ${faceWords(part, of.face)}` : `across ${of.axis}, at`}
          options={() => [
            ...planeAxes.map((axis) => ({ value: axis, label: `across ${axis}: ${axisWords[axis]}` })),
            ...flatFaces(part, workedOf(part).plan, step),
          ]}
          onChange={(value) => {
            const axis = planeAxes.find((each) => each === value)
            onChange(
              planeTextOf({ of: axis ? { axis } : { face: faceOf(value) }, at: axis && !isFace ? at : '0' }),
              true,
            )
          }}
        />
      </Lit>{' '}
      <ValueField
        label={isFace ? `${definition.label}, beyond the face` : `${definition.label}, distance`}
        text={at}
        fault={fault}
        autoFocus={focus.autoFocus}
        onAutoFocused={focus.onAutoFocused}
        kind="length"
        names={names}
        onChange={(next, final) => onChange(planeTextOf({ of, at: next }), final)}
      />
      {isFace && ' beyond'}
    </>
  )
}

function optionOf(of: PlaneOf): string {
  return 'axis' in of ? of.axis : faceValue(of.face)
}

/** The flat faces and datums of the steps above one. */
function flatFaces(part: Part, plan: Plan, step: string | undefined) {
  return seatOptions(part, plan, step).flatMap(({ key, seat, label, round }) =>
    seat.kind === 'face' && round === undefined ? [{ value: key, label: `along ${label}` }] : [],
  )
}

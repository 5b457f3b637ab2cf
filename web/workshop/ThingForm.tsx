import { thingFaults } from '@makrel/core/document'
import {
  type FitOrigin,
  fitMeanings,
  fitNames,
  fitPairs,
  type KeptThing,
  originText,
  type Printer,
  type WorkshopKind,
  type WorkshopThings,
} from '@makrel/core/fits'
import { formatNumber } from '@makrel/core/units'
import { useId, useState } from 'react'
import { type FieldError, FormProvider, useForm, useFormContext } from 'react-hook-form'
import { dateText } from '../ui/dates.ts'
import { groupsOf, originPlace, type ThingRow, valueAt, withValue } from './rows.ts'
import { changeThing } from './state.ts'

type Thing = WorkshopThings[WorkshopKind]
/** What is typed, by place with its dots taken out: a form would make records of them. */
type Typed = Record<string, string>
const keyOf = (place: string) => place.replaceAll('.', '_')
const gapPlaces = fitNames.flatMap((fit) => fitPairs.map((pair) => `fits.${fit}.${pair}.gap`))
const placesOf = (kind: WorkshopKind) => [
  'name',
  ...groupsOf[kind].flatMap(({ rows }) => rows.map(({ place }) => place)),
  ...(kind === 'printers' ? gapPlaces : []),
]

function typedOf(kind: WorkshopKind, thing: Thing): Typed {
  return Object.fromEntries(
    placesOf(kind).map((place) => {
      const value = valueAt(thing, place)
      return [keyOf(place), typeof value === 'number' ? formatNumber(value, 6) : String(value ?? '')]
    }),
  )
}

function setNow(): FitOrigin {
  return { kind: 'set', on: new Date().toISOString() }
}

/** The thing as it is typed; a gap or an error that differs was set by hand now. */
function thingOf(kind: WorkshopKind, before: Thing, typed: Typed): Thing {
  let thing = before
  for (const place of placesOf(kind)) {
    const text = (typed[keyOf(place)] ?? '').trim()
    const number = text === '' ? undefined : Number(text.replace(',', '.'))
    const value = place === 'name' ? text : Number.isNaN(number) ? text : number
    if (value === valueAt(before, place)) continue
    thing = withValue(thing, place, value)
    const origin = originPlace(kind, place)
    if (origin) thing = withValue(thing, origin, setNow())
  }
  return thing
}

/** All values of a printer or material. What can be kept is kept when its field is left. */
export function ThingForm<K extends WorkshopKind>({
  kind,
  kept,
}: {
  readonly kind: K
  readonly kept: KeptThing<WorkshopThings[K]>
}) {
  const { thing } = kept
  const [offers, setOffers] = useState<Readonly<Record<string, number | string | undefined>>>({})
  const form = useForm<Typed>({
    values: typedOf(kind, thing),
    mode: 'onBlur',
    // The answer to one save must not take away what is being typed meanwhile, nor what is said of it.
    resetOptions: { keepDirtyValues: true, keepErrors: true },
    resolver: (typed) => {
      const faults = thingFaults(kind, thingOf(kind, thing, typed))
      setOffers(Object.fromEntries(faults.map(({ place, offer }) => [keyOf(place), offer])))
      const errors = faults.map(({ place, text }) => [keyOf(place), { type: 'value', message: text }] as const)
      return faults.length > 0 ? { values: {}, errors: Object.fromEntries(errors) } : { values: typed, errors: {} }
    },
  })
  const save = form.handleSubmit(async (typed) => {
    const next = thingOf(kind, thing, typed) as WorkshopThings[K]
    if (next === thing) return
    form.reset(typed, { keepValues: true })
    await changeThing(kind, kept, next)
  })
  /** With all that is typed: pressing it leaves a field, which would be saved by itself otherwise. */
  const measure = form.handleSubmit(async (typed) => {
    form.reset(typed, { keepValues: true })
    await changeThing(kind, kept, { ...thingOf(kind, thing, typed), measured: setNow() } as WorkshopThings[K])
  })
  return (
    <FormProvider {...form}>
      <form
        aria-label={thing.name}
        onSubmit={save}
        onBlur={(event) => {
          if (event.target instanceof HTMLInputElement) void save()
        }}
        className="flex flex-col gap-5"
      >
        <NameField offers={offers} />
        <div className="grid grid-cols-2 gap-x-8 gap-y-5 max-[56.25rem]:grid-cols-1">
          {groupsOf[kind].map(({ title, measured, rows }) => (
            <fieldset key={title}>
              <legend className="mb-1 font-semibold">
                {title}
                {measured && <Measured origin={thing.measured} onMeasured={measure} />}
              </legend>
              <div className="border border-line bg-sheet">
                {rows.map((row) => (
                  <ValueRow key={row.place} row={row} offers={offers} save={save} />
                ))}
              </div>
            </fieldset>
          ))}
        </div>
        {kind === 'printers' && <Fits printer={thing as Printer} offers={offers} save={save} />}
        <button type="submit" className="sr-only">
          Save
        </button>
      </form>
    </FormProvider>
  )
}

/** Where the errors of a printer or material come from; guesses can be said to be right. */
function Measured({
  origin = { kind: 'shipped' },
  onMeasured,
}: {
  readonly origin: FitOrigin | undefined
  onMeasured(): void
}) {
  return (
    <span className="ml-2 text-xs font-normal text-ink-soft">
      {origin.kind === 'shipped' ? (
        <>
          a guess: files leave as drawn until it is measured.{' '}
          <button
            type="button"
            className="font-semibold text-ink underline underline-offset-2"
            // The field that is typed in is not left before.
            onMouseDown={(event) => event.preventDefault()}
            onClick={onMeasured}
          >
            I measured it
          </button>
        </>
      ) : (
        originText(origin, (iso) => dateText(new Date(iso)))
      )}
    </span>
  )
}

interface Offering {
  readonly offers: Readonly<Record<string, number | string | undefined>>
}

function NameField({ offers }: Offering) {
  const { register, formState } = useFormContext<Typed>()
  const fault = formState.errors.name as FieldError | undefined
  return (
    <label className="block max-w-md">
      <span className="mb-1 block font-semibold">Name</span>
      <input
        {...register('name')}
        maxLength={120}
        aria-invalid={fault !== undefined}
        className="h-8 w-full rounded-sm border border-line bg-sheet px-2 aria-invalid:border-rust"
      />
      {fault && <FaultText of="name" text={`Its name ${fault.message}.`} offers={offers} save={undefined} />}
    </label>
  )
}

type Saving = Offering & { readonly save: () => void }

function ValueRow({ row: { place, label, unit, meaning }, offers, save }: { readonly row: ThingRow } & Saving) {
  const id = useId()
  return (
    <div
      className="flex flex-wrap items-baseline gap-x-3 border-t border-line px-3 py-1.5 first:border-t-0"
      title={meaning}
    >
      <label htmlFor={id} className="min-w-0 flex-1">
        {label} <span className="block text-xs text-ink-soft">{meaning}</span>
      </label>
      <NumberField id={id} place={place} label={label} offers={offers} save={save} />
      <span className="w-12 text-ink-soft">{unit}</span>
    </div>
  )
}

function NumberField({
  id,
  place,
  label,
  offers,
  save,
}: { readonly id?: string; readonly place: string; readonly label: string } & Saving) {
  const { register, formState } = useFormContext<Typed>()
  const key = keyOf(place)
  const fault = formState.errors[key] as FieldError | undefined
  return (
    <>
      <input
        id={id}
        {...register(key)}
        aria-label={label}
        aria-invalid={fault !== undefined}
        inputMode="decimal"
        autoComplete="off"
        className="value w-20 text-right"
      />
      {fault && <FaultText of={key} text={`It ${fault.message}.`} offers={offers} save={save} />}
    </>
  )
}

/** What is wrong with a value, with the nearest that can be as a press. */
function FaultText({
  of,
  text,
  offers,
  save,
}: { readonly of: string; readonly text: string; readonly save: (() => void) | undefined } & Offering) {
  const { setValue } = useFormContext<Typed>()
  const offer = offers[of]
  return (
    <span role="alert" className="order-last w-full text-right text-xs text-rust">
      {text}{' '}
      {offer !== undefined && (
        <button
          type="button"
          className="font-semibold underline underline-offset-2"
          onClick={() => {
            setValue(of, String(offer), { shouldValidate: true })
            save?.()
          }}
        >
          Take {String(offer)}
        </button>
      )}
    </span>
  )
}

/** The gaps of a printer's fits, of round and of flat pairs, each with where it comes from. */
function Fits({ printer, offers, save }: { readonly printer: Printer } & Saving) {
  const day = (iso: string) => dateText(new Date(iso))
  return (
    <table className="w-full border border-line bg-sheet text-left">
      <caption className="pb-1 text-left font-semibold">
        Fits, gap per side in mm <span className="font-normal text-ink-soft">between two rounds, or two flats</span>
      </caption>
      <thead className="text-xs text-ink-soft">
        <tr>
          <th className="px-3 py-1 font-medium">Fit</th>
          <th className="px-3 py-1 font-medium">Round</th>
          <th className="px-3 py-1 font-medium">Flat</th>
        </tr>
      </thead>
      <tbody>
        {fitNames.map((fit) => (
          <tr key={fit} className="border-t border-line align-top">
            <th scope="row" className="px-3 py-1.5 font-medium">
              {fit}
              <span className="block text-xs font-normal text-ink-soft">{fitMeanings[fit]}</span>
            </th>
            {fitPairs.map((pair) => (
              <td key={pair} className="px-3 py-1.5">
                <span className="flex flex-wrap items-baseline gap-2">
                  <NumberField
                    place={`fits.${fit}.${pair}.gap`}
                    label={`${fit}, ${pair}`}
                    offers={offers}
                    save={save}
                  />
                  <span className="text-xs text-ink-soft">{originText(printer.fits[fit][pair].origin, day)}</span>
                </span>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

import { tellingIn } from '@makrel/core/planning'
import { tried } from '@makrel/core/problems'
import type { SpringFacts } from '@makrel/core/shapes'
import { formatLengthWithUnit, formatNumber } from '@makrel/core/units'
import { Fragment } from 'react'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'

/** What the spring of a step does, by its formula, in the material of the part. */
export function SpringNote({ id }: { readonly id: string }) {
  const { material } = usePart((state) => state.part!)
  const worked = useWorked()
  const { shape, values } = worked?.resolved.steps.get(id) ?? {}
  return <SpringRows facts={values && tried(() => shape?.spring?.(values, material))} />
}

/** What a spring does, line by line. */
export function SpringRows({ facts }: { readonly facts: SpringFacts | undefined }) {
  const part = usePart((state) => state.part!)
  const { material, unit } = part
  if (!facts) return null
  const [per, force] = facts.per === 'mm' ? ['N/mm', 'N'] : ['N mm/°', 'N mm']
  const travel = facts.per === 'mm' ? formatLengthWithUnit(facts.travel, unit) : `${formatNumber(facts.travel, 1)}°`
  const rows = [
    { label: 'Stiffness', text: `${formatNumber(facts.rate, 3)} ${per}` },
    { label: `At ${travel}`, text: `${formatNumber(facts.force, 2)} ${force}` },
    {
      label: 'Strain there',
      text: `${formatNumber(100 * facts.strain, 2)} % of ${material.strainOften} %, once ${material.strainOnce} %`,
    },
    ...(facts.more ?? []).map((row) => ({ ...row, text: tellingIn(part)(row.text) })),
  ]
  return (
    <dl aria-label="Spring" className="mt-1 grid grid-cols-[8rem_1fr] gap-x-3 text-[0.9375rem]">
      {rows.map(({ label, text }) => (
        <Fragment key={label}>
          <dt className="text-ink-soft">{label}</dt>
          <dd className="figures">{text}</dd>
        </Fragment>
      ))}
    </dl>
  )
}

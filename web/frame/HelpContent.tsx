import { Link } from 'react-router'
import { shownKeys } from '../keys/keys.ts'
import { stepKeys } from '../make/stepKeys.ts'
import { outlineKeys } from '../outline/outlineKeys.ts'
import { viewKeys } from '../viewport/viewKeys.ts'
import { partKeys } from './partKeys.ts'

const examples: readonly (readonly [text: string, meaning: string])[] = [
  ['12.5', "in the part's unit"],
  ['2,5', 'a decimal comma'],
  ['1 1/4 in, 1-1/4", ½ in, 1\'', 'inches with fractions, feet'],
  ['2 cm + 0.4', 'units may be mixed'],
  ['wall * 2', 'a measure by its name'],
  ['rod + 2 * slide', 'a fit by its name: gap per side on this printer'],
  ['copy, copies', 'in a repeated step: the number of the copy, and how many there are'],
  ['pick(size, 4.3, 5.3)', 'for each word of a choice its value'],
  ['max(wall, 3)', 'min, max, round, floor, ceil, abs, sqrt, hypot, sin, cos, tan, asin, acos, atan'],
]

/** The keys of all views, and what may be typed into a value. */
export function HelpContent() {
  return (
    <>
      <p className="mt-2">
        <Link to="/guide" target="_blank" className="font-semibold text-mackerel underline">
          The guide
        </Link>{' '}
        has a page for each stage, and parts to make line by line.
      </p>
      {[partKeys, stepKeys, viewKeys, outlineKeys].map(({ title, keys }) => (
        <section key={title} className="mt-5 first-of-type:mt-2">
          <h3 className="font-semibold">{title}</h3>
          <Table rows={keys.map((key) => [shownKeys(key), key.does])} />
        </section>
      ))}
      <section className="mt-5">
        <h3 className="font-semibold">What may be typed into a value</h3>
        <Table rows={examples} />
      </section>
    </>
  )
}

function Table({ rows }: { readonly rows: readonly (readonly [string, string])[] }) {
  return (
    <dl className="mt-2 grid grid-cols-[11.875rem_1fr]">
      {rows.map(([term, meaning]) => (
        <div key={term} className="contents">
          <dt className="figures border-t border-line py-1.5 text-[0.9375rem]">{term}</dt>
          <dd className="border-t border-line py-1.5">{meaning}</dd>
        </div>
      ))}
    </dl>
  )
}

import { boughtCsv, boughtLines, fileName } from '@makrel/core/exchange'
import { toBuy } from '@makrel/core/planning'
import { formatLength } from '@makrel/core/units'
import { itemsOf } from '../state/items.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { saveBytes } from '../ui/saveBytes.ts'

/** Screws, nuts and what else the part takes: how many, which, and as a table for the shop. */
export function ToBuy() {
  const part = usePart((state) => state.part)!
  const lines = boughtLines(toBuy(itemsOf(part)))
  if (lines.length === 0) return null
  const save = () => {
    const bytes = new TextEncoder().encode(boughtCsv(lines))
    saveBytes(`${fileName(part.name)}-to-buy.csv`, 'text/csv', bytes)
  }
  return (
    <section aria-label="What to buy" className="mt-5 border border-line">
      <div className="flex items-center justify-between gap-2 border-b border-line px-3 py-1.5">
        <h3 className="font-semibold">What to buy</h3>
        <Button onClick={save}>Save as CSV</Button>
      </div>
      <table className="w-full text-[0.9375rem]">
        <thead className="sr-only">
          <tr>
            <th>Count</th>
            <th>Name</th>
            <th>Standard</th>
          </tr>
        </thead>
        <tbody>
          {lines.map(({ count, name, standard, length }) => (
            <tr key={`${name} ${length}`} className="border-b border-line last:border-b-0">
              <td className="figures w-12 py-1 pl-3 text-right">{count} ×</td>
              <td className="px-2 py-1">
                {name}
                {length !== undefined && <span className="figures"> × {formatLength(length, 'mm')}</span>}
              </td>
              <td className="py-1 pr-3 text-right text-ink-soft">{standard}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

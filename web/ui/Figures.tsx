/** Named figures in a grid of two columns, ruled like the table on a drawing. */
export function Figures({ rows }: { readonly rows: readonly (readonly [label: string, value: string])[] }) {
  return (
    <dl className="grid grid-cols-2 border border-line bg-sheet [&>div]:border-line [&>div]:px-3 [&>div]:py-1.5 [&>div:nth-child(even)]:border-l [&>div:nth-child(n+3)]:border-t">
      {rows.map(([label, value]) => (
        <div key={label}>
          <dt className="text-xs text-ink-soft">{label}</dt>
          <dd className="figures text-[1.0625rem]">{value}</dd>
        </div>
      ))}
    </dl>
  )
}

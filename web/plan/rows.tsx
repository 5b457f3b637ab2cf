import type { ReactNode } from 'react'
import { IconButton } from '../ui/Button.tsx'
import { RemoveIcon } from '../ui/icons.tsx'
import { TextCell } from './TextCell.tsx'
import { Users } from './Users.tsx'

/** What the rows of named values have in common. */

export function NameCell({
  name,
  invalid,
  autoFocus,
  onRename,
}: {
  readonly name: string
  readonly invalid: boolean
  readonly autoFocus?: boolean
  onRename(name: string): void
}) {
  return (
    <td>
      <TextCell
        label={`Name of ${name}`}
        value={name}
        {...(autoFocus === undefined ? {} : { autoFocus })}
        invalid={invalid}
        className="cell font-semibold"
        onCommit={(typed) => onRename(typed.trim())}
      />
    </td>
  )
}

/** Who uses it, and how to be rid of it. */
export function RowEnd({
  name,
  users,
  onRemove,
}: {
  readonly name: string
  readonly users: readonly string[]
  onRemove(): void
}) {
  return (
    <>
      <td className="px-2 py-2 text-xs text-ink-soft max-[48rem]:hidden">
        <Users ids={users} />
      </td>
      <td className="py-1">
        <IconButton label={`Remove ${name}`} onClick={onRemove}>
          <RemoveIcon size={14} />
        </IconButton>
      </td>
    </>
  )
}

/** What is wrong with a row, below it. */
export function ProblemRow({ columns, children }: { readonly columns: number; readonly children: ReactNode }) {
  return (
    <tr>
      <td colSpan={columns} className="px-2 pb-2">
        <p role="alert" className="text-rust">
          {children}
        </p>
      </td>
    </tr>
  )
}

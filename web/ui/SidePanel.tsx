import { type ReactNode, useState } from 'react'
import { IconButton } from './Button.tsx'
import { ChooseIcon } from './icons.ts'

/** The sheet at the right of a stage. On a narrow window it folds away and is called back by its tab. */
export function SidePanel({
  label,
  className = '',
  children,
}: {
  readonly label: string
  readonly className?: string
  readonly children: ReactNode
}) {
  const [folded, setFolded] = useState(() => window.innerWidth < 900)
  return (
    <div className="relative flex shrink-0">
      <IconButton
        label={folded ? `Show: ${label}` : `Fold away: ${label}`}
        onClick={() => setFolded(!folded)}
        className="absolute top-1/2 -left-7 z-20 border border-r-0 border-ink bg-sheet min-[1000px]:hidden"
      >
        <ChooseIcon size={16} className={folded ? 'rotate-90' : '-rotate-90'} />
      </IconButton>
      <aside
        aria-label={label}
        hidden={folded}
        className={`w-[412px] border-l border-ink bg-sheet max-[1000px]:w-[340px] ${folded ? '' : className}`}
      >
        {children}
      </aside>
    </div>
  )
}

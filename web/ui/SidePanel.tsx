import { type ReactNode, useEffect, useState } from 'react'
import { flushSync } from 'react-dom'
import { isTyping } from '../keys/keys.ts'
import { IconButton } from './Button.tsx'
import { ChooseIcon } from './icons.tsx'

/** The sheet at the right of a stage. On a narrow window it folds away and is called back by its tab. */
export function SidePanel({
  label,
  className = '',
  isMain = false,
  children,
}: {
  readonly label: string
  readonly className?: string
  /** what one comes to its stage for: it is there on a narrow window as well, until it is folded away */
  readonly isMain?: boolean
  readonly children: ReactNode
}) {
  // In rem: with larger text a window is narrow sooner.
  const [folded, setFolded] = useState(() => !isMain && window.matchMedia('(max-width: 56.25rem)').matches)
  useEffect(() => {
    if (!folded) return
    // What is looked for is in here: the field that adds.
    const pressed = (event: KeyboardEvent) => {
      if (event.key === '/' && !isTyping(event)) flushSync(() => setFolded(false))
    }
    window.addEventListener('keydown', pressed, true)
    return () => window.removeEventListener('keydown', pressed, true)
  }, [folded])
  return (
    <div className="relative flex shrink-0">
      <IconButton
        label={folded ? `Show: ${label}` : `Fold away: ${label}`}
        onClick={() => setFolded(!folded)}
        className="absolute top-1/2 -left-7 z-20 border border-r-0 border-ink bg-sheet min-[62.5rem]:hidden"
      >
        <ChooseIcon size={16} className={folded ? 'rotate-90' : '-rotate-90'} />
      </IconButton>
      <aside
        aria-label={label}
        hidden={folded}
        className={`w-[25.75rem] border-l border-ink bg-sheet max-[62.5rem]:w-[min(21.25rem,60vw)] ${folded ? '' : className}`}
      >
        {children}
      </aside>
    </div>
  )
}

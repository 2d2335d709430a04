import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'

/** A box on paper, crossed where it was chosen. */
export function PaperBox({ chosen, round }: { chosen: boolean; round: boolean }) {
  return (
    <span
      role="img"
      aria-label={chosen ? 'chosen' : t`not chosen`}
      className={`inline-flex size-5 shrink-0 items-center justify-center border-2 border-ink ${round ? 'rounded-full' : ''}`}
    >
      {chosen && <span className={`size-2.5 bg-ink ${round ? 'rounded-full' : ''}`} />}
    </span>
  )
}

/** What was given, or a line to write on. wide: for a text. */
export function PaperLine({ given, wide = false }: { given: ReactNode; wide?: boolean }) {
  return (
    <span
      className={`inline-block border-ink border-b px-1 align-bottom ${wide ? 'min-h-7 w-full' : 'min-h-6 min-w-32'}`}
    >
      {given}
    </span>
  )
}

/** Room to write or draw in. */
export function PaperRoom({ children, high = false }: { children?: ReactNode; high?: boolean }) {
  return (
    <div
      className={`max-w-[42rem] border border-ink px-4 py-3 whitespace-pre-line ${high ? 'min-h-48' : 'min-h-24'}`}
    >
      {children}
    </div>
  )
}

import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'

/** A group of controls that answer one part, and what came of it once it is closed. */
export function PartGroup({
  label,
  closed,
  note,
  review,
  children,
}: {
  label: string
  closed: boolean
  note?: ReactNode
  review: ReactNode
  children: ReactNode
}) {
  return (
    <fieldset className="mt-5 min-w-0" disabled={closed}>
      <legend className={label ? 'mb-1.5 font-semibold' : 'sr-only'}>
        {label || t`Your answer`}
      </legend>
      {children}
      <div aria-live="polite" className="mt-1.5 min-h-6 text-sm text-ink-2">
        {note}
      </div>
      {review}
    </fieldset>
  )
}

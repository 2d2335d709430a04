import type { ReactNode } from 'react'

interface Props {
  on: boolean
  set: (on: boolean) => void
  disabled?: boolean
  /** A word for who cannot see what the box stands beside. */
  label?: string
  children?: ReactNode
}

/** A box to tick, with what it says. */
export function Check({ on, set, disabled, label, children }: Props) {
  return (
    <label className="flex items-center gap-3 py-1">
      <input
        type="checkbox"
        className="size-5 shrink-0 accent-gust"
        aria-label={label}
        disabled={disabled}
        checked={on}
        onChange={(event) => set(event.target.checked)}
      />
      {children}
    </label>
  )
}

import type { LucideIcon } from 'lucide-react'

/** A small button of one picture, with its name for who cannot see it. */
export function IconButton({
  icon: Icon,
  label,
  off,
  act,
}: {
  icon: LucideIcon
  label: string
  off?: boolean
  act: () => void
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={off}
      onClick={act}
      className="flex size-9 items-center justify-center rounded-lg text-ink-2 hover:bg-rail disabled:opacity-40"
    >
      <Icon size={18} aria-hidden="true" />
    </button>
  )
}

import type { ComponentProps, ReactNode } from 'react'

type Kind = 'strong' | 'plain' | 'quiet'

const KINDS: Record<Kind, string> = {
  strong: 'bg-gust text-on-gust hover:bg-gust-strong px-4.5 py-2',
  plain: 'bg-sheet text-gust border border-gust-mid hover:border-gust px-4 py-1.5',
  quiet: 'text-gust hover:underline underline-offset-4 px-2 py-1.5',
}

export const buttonClass = (kind: Kind) =>
  `inline-flex items-center justify-center gap-2 rounded-lg font-semibold min-h-10 text-center disabled:opacity-55 ${KINDS[kind]}`

interface Props extends ComponentProps<'button'> {
  kind?: Kind
  hint?: string
  children: ReactNode
}

/** A button, with its key beside it when it has one. */
export function Button({ kind = 'plain', hint, children, className = '', ...rest }: Props) {
  return (
    <button type="button" className={`${buttonClass(kind)} ${className}`} {...rest}>
      {children}
      {hint && <KeyCap inverse={kind === 'strong'}>{hint}</KeyCap>}
    </button>
  )
}

/** A key as it is printed. */
export function KeyCap({ children, inverse }: { children: ReactNode; inverse?: boolean }) {
  const tone = inverse ? 'border-on-gust/50 text-on-gust' : 'border-edge text-ink-2 bg-sheet'
  return (
    <span
      aria-hidden="true"
      className={`rounded border px-1.5 text-xs font-sans leading-5 ${tone}`}
    >
      {children}
    </span>
  )
}

import type { InputHTMLAttributes, ReactNode, TextareaHTMLAttributes } from 'react'

export const fieldClass =
  'rounded-lg border border-edge bg-sheet px-3 py-2 min-h-10 text-ink disabled:opacity-55'

/** A label with its field below it. */
export function Labelled({
  label,
  children,
  className = '',
}: {
  label: string
  children: ReactNode
  className?: string
}) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the field is the child
    <label className={`grid gap-1 ${className}`}>
      <span className="text-sm text-ink-2">{label}</span>
      {children}
    </label>
  )
}

export function Input({ className = '', ...rest }: InputHTMLAttributes<HTMLInputElement>) {
  return <input className={`${fieldClass} ${className}`} {...rest} />
}

export function TextArea({ className = '', ...rest }: TextareaHTMLAttributes<HTMLTextAreaElement>) {
  return <textarea className={`${fieldClass} w-full ${className}`} {...rest} />
}

/** What went wrong, said where it was asked for. */
export function Problem({ error }: { error: Error | null }) {
  if (!error) return null
  return (
    <p role="alert" className="text-wrong">
      {error.message}
    </p>
  )
}

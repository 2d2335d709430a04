import { t } from '@lingui/core/macro'
import type { InputHTMLAttributes, ReactNode, TextareaHTMLAttributes } from 'react'
import { ApiError } from '../api/client'
import { Button } from './Button'
import { capital } from './words'

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

type TextFieldProps = Omit<InputHTMLAttributes<HTMLInputElement>, 'onChange' | 'className'> & {
  label: string
  value: string | number
  onText: (text: string) => void
  /** Of the label with its field, and of the field alone. */
  className?: string
  fieldWidth?: string
}

/** A field of one line under its label. */
export function TextField({ label, onText, className, fieldWidth, ...rest }: TextFieldProps) {
  return (
    <Labelled label={label} className={className}>
      <Input className={fieldWidth} onChange={(event) => onText(event.target.value)} {...rest} />
    </Labelled>
  )
}

export function TextArea({ className = '', ...rest }: TextareaHTMLAttributes<HTMLTextAreaElement>) {
  return <textarea className={`${fieldClass} w-full ${className}`} {...rest} />
}

/** What went wrong, said where it was asked for, with every field at fault and why. */
export function Problem({ error }: { error: Error | null }) {
  if (!error) return null
  const fields = Object.entries(error instanceof ApiError ? error.fields : {}).filter(
    ([, says]) => says !== error.message,
  )
  return (
    <div role="alert" className="text-wrong">
      <p>{error.message}</p>
      <FieldProblems problems={Object.fromEntries(fields)} />
    </div>
  )
}

/** Fields that cannot be as they are, each with the reason: none is left out. */
export function FieldProblems({ problems }: { problems: Record<string, string> }) {
  const all = Object.entries(problems)
  if (all.length === 0) return null
  return (
    <ul>
      {all.map(([field, says]) => (
        <li key={field}>
          {fieldName(field)}: {says}
        </li>
      ))}
    </ul>
  )
}

/** A field of a request as it can be read: `body.rules.pass_mark` is “Rules, pass mark”. */
export function fieldName(path: string): string {
  const words = path
    .replace(/^body\./, '')
    .replaceAll('_', ' ')
    .split('.')
  return capital(words.filter((one) => !/^\d+$/.test(one)).join(', '))
}

/** The end of a form that saves: its button, what came of it, and what went wrong. */
export function SaveRow({
  save,
  strong,
  children = t`Save`,
}: {
  save: { isPending: boolean; isSuccess: boolean; error: Error | null }
  strong?: boolean
  children?: ReactNode
}) {
  return (
    <div className="flex flex-wrap items-center gap-4">
      <Button type="submit" kind={strong ? 'strong' : 'plain'} disabled={save.isPending}>
        {children}
      </Button>
      <span role="status">{save.isSuccess && t`Saved.`}</span>
      <Problem error={save.error} />
    </div>
  )
}

import { t } from '@lingui/core/macro'
import { useId } from 'react'
import { fieldClass } from '../../../ui/Field'
import { Wrong } from '../../composing/Pick'
import { useFamily } from './context'
import { filledOf, textOf, typedNumber } from './json'
import type { FieldProps } from './kinds'

/** A line of typing; an expression has beside it what it gives in the version on screen. */
export function LineField({ field, value, onChange, path, quiet }: FieldProps) {
  const { filled, problemAt } = useFamily()
  const id = useId()
  const problem = problemAt(path)
  const formula = field.as === 'expression'
  const given = formula ? filledOf(filled, value) : undefined
  return (
    <div className="grid min-w-0 content-start gap-1">
      <label className="grid gap-1">
        <span className={quiet ? 'sr-only' : 'text-sm text-ink-2'}>{field.label}</span>
        <input
          className={`${fieldClass} w-full min-w-0 ${formula ? 'font-mono text-[0.95rem]' : ''}`}
          inputMode={field.as === 'number' ? 'decimal' : undefined}
          spellCheck={field.as === 'words'}
          aria-describedby={id}
          aria-invalid={problem ? true : undefined}
          value={textOf(value)}
          onChange={({ target }) =>
            onChange(field.as === 'words' ? target.value || undefined : typedNumber(target.value))
          }
        />
      </label>
      <span id={id} className="empty:hidden">
        {problem ? <Wrong says={problem} /> : given && <Gives shown={given} />}
      </span>
    </div>
  )
}

function Gives({ shown }: { shown: string }) {
  return <span className="font-semibold text-correct tabular-nums">{t`= ${shown}`}</span>
}

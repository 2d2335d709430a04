import { t } from '@lingui/core/macro'
import { useEffect, useRef, useState } from 'react'
import { Button } from '../../../ui/Button'
import { fieldClass } from '../../../ui/Field'
import type { Typed } from './marks'
import type { Formula } from './queries'

/** The question back: the answer to the numbers on which what still fits differs most. */
export function Asked({
  typed,
  reply,
  pending,
  onAnswer,
}: {
  typed: Typed
  reply: Formula
  pending: boolean
  onAnswer: (answer: string) => void
}) {
  const [answer, setAnswer] = useState('')
  const field = useRef<HTMLInputElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: at each question anew
  useEffect(() => {
    setAnswer('')
    field.current?.focus()
  }, [reply])
  const read = Object.entries(typed.rows.at(-1)?.values ?? {})
  return (
    <form
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault()
        onAnswer(answer)
      }}
    >
      <p className="sr-only">{read.map(([name, value]) => `${name} ${value}`).join(', ')}</p>
      <div className="flex flex-wrap items-center gap-3">
        <input
          ref={field}
          aria-label={t`The answer`}
          className={`${fieldClass} w-40 text-lg`}
          value={answer}
          onChange={({ target }) => setAnswer(target.value)}
        />
        <Button type="submit" kind="strong" disabled={pending || answer.trim() === ''}>
          {pending ? t`Looking…` : t`Send answer`}
        </Button>
        <span className="text-ink-2">{t`The formulas that still fit differ most on these numbers.`}</span>
      </div>
    </form>
  )
}

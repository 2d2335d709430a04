import { t } from '@lingui/core/macro'
import { lazy, Suspense, useId, useState } from 'react'
import type { PartProps } from '../view'
import { AngleField } from './AngleField'

export const loadFormula = () => import('./FormulaField')
const FormulaField = lazy(loadFormula)

const NAMES = {
  number: t`Your answer`,
  angle: t`Degrees and minutes`,
  time: t`Time, as 09:10`,
  text: t`Your answer`,
  expression: t`Your formula`,
} as const
const UNITS: Record<string, string> = {
  m: t`in metres`,
  M: t`in nautical miles`,
  ca: t`in cables`,
  kn: t`in knots`,
  '°': t`in degrees`,
  '′': t`in minutes of arc`,
  min: t`in minutes`,
  h: t`in hours`,
  hPa: t`in hectopascals`,
}

/** QTI text entry interaction: a number with its unit, a time, a short text or a formula. */
export function Answer({
  review,
  part,
  state,
  value,
  onChange,
  fieldRef,
  noteId,
}: PartProps<'text_entry'>) {
  const id = useId()
  const [plain, setPlain] = useState(true)
  const closed = state.state !== 'open'
  const wrong = state.tries > 0 && state.state !== 'right' && value.trim() === state.answer.trim()
  const border = state.state === 'right' ? 'border-correct' : wrong ? 'border-wrong' : 'border-edge'
  const name = part.label || NAMES[part.value]
  const formula = part.value === 'expression'
  const angle = part.value === 'angle'
  const wide = part.value === 'text' || formula
  return (
    <div className="mt-5">
      <label htmlFor={angle ? undefined : id} className="block text-sm text-ink-2">
        {name}
        {part.unit && !angle && <span className="sr-only"> {UNITS[part.unit] ?? part.unit}</span>}
        {part.label && part.value === 'time' && <span>{t`, as 09:10`}</span>}
        {formula && <span> {t`in ${part.symbols.join(', ')}, as 2x + y^2`}</span>}
      </label>
      <div className="mt-1 flex flex-wrap items-center gap-3">
        {formula && !plain && !closed ? (
          <Suspense fallback={<span className="text-ink-2">{t`Loading the formula field…`}</span>}>
            <FormulaField value={value} onChange={onChange} label={name} />
          </Suspense>
        ) : angle ? (
          <AngleField
            value={value}
            onChange={onChange}
            fieldRef={fieldRef}
            border={border}
            readOnly={closed}
            wrong={wrong}
            noteId={noteId}
          />
        ) : (
          <div
            className={`flex items-center rounded-box border-2 bg-sheet ${border} ${
              wide ? 'w-80 max-w-full' : 'w-44'
            } has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-gust`}
          >
            <input
              id={id}
              ref={fieldRef}
              className="min-w-0 flex-1 rounded-box bg-transparent px-3.5 py-2.5 text-[1.25rem] tabular-nums outline-none"
              inputMode={part.value === 'number' ? 'decimal' : 'text'}
              autoComplete="off"
              autoCapitalize="off"
              spellCheck={false}
              maxLength={200}
              value={value}
              readOnly={closed}
              aria-invalid={wrong || undefined}
              aria-describedby={noteId}
              onChange={(event) => onChange(event.target.value)}
            />
            {part.unit && (
              <span aria-hidden="true" className="pr-3.5 text-ink-2">
                {part.unit}
              </span>
            )}
          </div>
        )}
        {formula && !closed && (
          <button
            type="button"
            className="min-h-10 px-2 text-gust hover:underline"
            onClick={() => setPlain(!plain)}
          >
            {plain ? t`Formula field` : t`Type it instead`}
          </button>
        )}
        {review}
      </div>
    </div>
  )
}

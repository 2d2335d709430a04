import { useId } from 'react'
import type { PartState, Schemas } from '../../api/client'
import { Sign } from '../../ui/Sign'

interface Props {
  part: Schemas['TextEntryPartOut']
  state: PartState
  value: string
  onChange: (value: string) => void
  wrong: boolean
  focusRef?: (node: HTMLInputElement | null) => void
}

const NAMES = { number: 'Your answer', time: 'Time, as 09:10', text: 'Your answer' } as const
const UNITS: Record<string, string> = {
  m: 'in metres',
  M: 'in nautical miles',
  kn: 'in knots',
  '°': 'in degrees',
  min: 'in minutes',
}

/** QTI text entry interaction: a number with its unit, a time, or a short text. */
export function TextEntryPart({ part, state, value, onChange, wrong, focusRef }: Props) {
  const id = useId()
  const closed = state.state !== 'open'
  const border = state.state === 'right' ? 'border-correct' : wrong ? 'border-wrong' : 'border-edge'
  const name = part.label || NAMES[part.value]
  return (
    <div className="mt-5">
      <label htmlFor={id} className="block text-sm text-ink-2">
        {name}
        {part.unit && <span className="sr-only"> {UNITS[part.unit] ?? part.unit}</span>}
        {part.label && part.value === 'time' && <span>, as 09:10</span>}
      </label>
      <div className="mt-1 flex items-center gap-3">
        <div
          className={`flex items-center rounded-box border-2 bg-sheet ${border} ${
            part.value === 'text' ? 'w-80 max-w-full' : 'w-44'
          } has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-gust`}
        >
          <input
            id={id}
            ref={focusRef}
            className="min-w-0 flex-1 rounded-box bg-transparent px-3.5 py-2.5 text-[1.25rem] tabular-nums outline-none"
            inputMode={part.value === 'number' ? 'decimal' : 'text'}
            autoComplete="off"
            autoCapitalize="off"
            spellCheck={false}
            maxLength={200}
            value={value}
            readOnly={closed}
            aria-invalid={wrong || undefined}
            onChange={(event) => onChange(event.target.value)}
          />
          {part.unit && (
            <span aria-hidden="true" className="pr-3.5 text-ink-2">
              {part.unit}
            </span>
          )}
        </div>
        {state.state === 'right' && <Sign kind="right" />}
        {closed && state.state !== 'right' && <Sign kind="wrong" />}
        {closed && state.state !== 'right' && state.right_answer && (
          <span>
            It is <strong className="tabular-nums">{state.right_answer}</strong>
          </span>
        )}
      </div>
    </div>
  )
}

import { t } from '@lingui/core/macro'
import { ToggleGroup } from 'radix-ui'
import type { Confidence } from './draft'

const LEVELS: [Confidence, string][] = [
  [50, '50%'],
  [70, '70%'],
  [90, '90%'],
  [100, 'sure'],
]

/** How sure the learner is, given before right or wrong is known. It may be left open. */
export function ConfidencePicker({
  value,
  onChange,
  disabled,
}: {
  value: Confidence | null
  onChange: (value: Confidence | null) => void
  disabled: boolean
}) {
  return (
    <div>
      <span id="how-sure" className="text-sm text-ink-2">{t`How sure are you?`}</span>
      <ToggleGroup.Root
        type="single"
        aria-labelledby="how-sure"
        disabled={disabled}
        value={value === null ? '' : String(value)}
        onValueChange={(next) => onChange(next === '' ? null : (Number(next) as Confidence))}
        className="mt-1 flex overflow-hidden rounded-lg border border-edge bg-sheet"
      >
        {LEVELS.map(([level, label]) => (
          <ToggleGroup.Item
            key={level}
            value={String(level)}
            aria-label={level === 100 ? 'sure' : t`${level}% sure`}
            className="min-h-11 border-l border-line px-3.5 first:border-l-0 hover:bg-gust-soft focus-visible:outline-offset-[-3px] data-[state=on]:bg-deep data-[state=on]:text-on-deep"
          >
            {label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  )
}

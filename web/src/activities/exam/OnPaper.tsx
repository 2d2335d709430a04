import { t } from '@lingui/core/macro'
import { Check } from '../../ui/Check'
import { fieldClass } from '../../ui/Field'
import type { SoFar } from './queries'

const MOST_SHEETS = 40

/** That a question is answered on paper, and on which sheet; it may be typed too. */
export function OnPaper({
  data,
  disabled,
  onChange,
}: {
  data: SoFar
  disabled: boolean
  onChange: (next: Partial<SoFar>) => void
}) {
  return (
    <div className="mt-5 flex flex-wrap items-center gap-x-6 gap-y-1">
      <Check
        on={data.on_paper ?? false}
        disabled={disabled}
        set={(on) => onChange({ on_paper: on, sheet: on ? data.sheet : null })}
      >{t`done on paper`}</Check>
      {data.on_paper && (
        <label className="flex items-center gap-2 text-ink-2">
          {t`sheet number`}
          <input
            type="number"
            min={1}
            max={MOST_SHEETS}
            disabled={disabled}
            className={`${fieldClass} w-20`}
            value={data.sheet ?? ''}
            onChange={(event) => {
              const sheet = Number(event.target.value)
              onChange({ sheet: sheet >= 1 && sheet <= MOST_SHEETS ? Math.floor(sheet) : null })
            }}
          />
          <span className="text-sm">{t`write this number on your sheet. You photograph the sheet after handing in`}</span>
        </label>
      )}
    </div>
  )
}

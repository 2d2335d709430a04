import { t } from '@lingui/core/macro'
import { SPEEDS, type useAloud } from './aloud'

/** How fast it reads, while it does. */
export function AloudSpeed({ aloud }: { aloud: ReturnType<typeof useAloud> }) {
  if (!aloud.reading) return null
  return (
    <label className="flex items-center gap-2 text-sm text-ink-2">
      {t`Speed`}
      <select
        className="rounded border border-edge bg-sheet px-1 py-0.5"
        value={aloud.speed}
        onChange={(event) => aloud.setSpeed(Number(event.target.value))}
      >
        {SPEEDS.map((speed) => (
          <option key={speed} value={speed}>
            {speed}
          </option>
        ))}
      </select>
      {aloud.silent && <span>{t`this device has no voice, so we highlight the words`}</span>}
    </label>
  )
}

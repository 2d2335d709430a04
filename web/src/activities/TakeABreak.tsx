import { t } from '@lingui/core/macro'
import type { Run } from '../api/client'
import { Button } from '../ui/Button'

const SAYS = {
  long: t`You’ve worked for half an hour. This is a good time for a break. Your place is saved.`,
  rapid: t`Your last three answers came too fast for the questions to be read, so they tell us nothing about your level. Take a break, or take your time with the next question. Your place is saved.`,
} as const

/** Why this is a moment to stop, and the way out. Going on stays as it was. */
export function TakeABreak({
  why,
  onLeave,
}: {
  why: NonNullable<Run['suggest_stop']>
  onLeave: () => void
}) {
  return (
    <div
      role="status"
      className={`mt-5 flex max-w-[45rem] flex-wrap items-center gap-x-6 gap-y-3 ${why === 'rapid' ? 'rounded-box bg-part-soft p-4 text-part' : 'text-ink-2'}`}
    >
      <p className="min-w-64 flex-1">{SAYS[why]}</p>
      <Button hint="L" onClick={onLeave}>{t`Stop for now`}</Button>
    </div>
  )
}

import { t } from '@lingui/core/macro'
import type { Question, Run } from '../api/client'
import { Mark } from '../ui/Mark'
import { OfflineNote } from '../ui/OfflineNote'
import { clockTime } from '../ui/words'
import { ACTIVITIES } from './descriptors'

/** While answering, the bar says what is being done, when it was saved, and the way out. */
export function RunTop({
  run,
  question,
  onLeave,
}: {
  run: Run
  question: Question | null
  onLeave: () => void
}) {
  const activity = ACTIVITIES[run.purpose]
  const number = question && activity.numbered ? t`, question ${question.number}` : ''
  return (
    <>
      <header className="on-deep flex flex-wrap items-center gap-x-6 gap-y-1 bg-deep px-5 py-2 text-on-deep @3xl:py-3 @5xl:px-8">
        <span className="hidden @3xl:block">
          <Mark />
        </span>
        <h1 className="font-heading text-lg font-semibold">
          {question ? activity.heading(run, question) : run.title}
          <span className="ml-4 font-sans text-base font-normal text-on-deep-2">
            {activity.kind}
            {number}
          </span>
        </h1>
        {run.goal && <p className="tabular-nums @5xl:hidden">{run.goal.says}</p>}
        <p className="text-on-deep-2 tabular-nums @3xl:ml-auto">{t`saved ${clockTime(run.saved_at)}`}</p>
        <button
          type="button"
          onClick={onLeave}
          className="ml-auto min-h-9 font-semibold @3xl:ml-0 underline-offset-4 hover:underline"
        >{t`Save and exit`}</button>
      </header>
      <OfflineNote />
    </>
  )
}

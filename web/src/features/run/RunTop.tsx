import type { Question, Run } from '../../api/client'
import { Mark } from '../../app/Mark'
import { OfflineNote } from '../../app/OfflineNote'
import { clockTime, PURPOSES } from '../../ui/words'

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
  const kind = PURPOSES[run.purpose]
  const number = question && run.purpose !== 'missed' ? `, question ${question.number}` : ''
  return (
    <>
      <header className="on-deep flex flex-wrap items-center gap-x-6 gap-y-1 bg-deep px-5 py-2 text-on-deep @3xl:py-3 @5xl:px-8">
        <span className="hidden @3xl:block">
          <Mark />
        </span>
        <h1 className="font-heading text-lg font-semibold">
          {question && run.purpose === 'diagnostic' ? question.topic.title : run.title}
          <span className="ml-4 font-sans text-base font-normal text-on-deep-2">
            {kind}
            {number}
          </span>
        </h1>
        <p className="text-on-deep-2 tabular-nums @3xl:ml-auto">saved {clockTime(run.saved_at)}</p>
        <button
          type="button"
          onClick={onLeave}
          className="ml-auto min-h-9 font-semibold @3xl:ml-0 underline-offset-4 hover:underline"
        >
          Leave and keep my place
        </button>
      </header>
      <OfflineNote />
    </>
  )
}

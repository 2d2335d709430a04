import { t } from '@lingui/core/macro'
import { useEffect, useState } from 'react'
import { duration } from '../../ui/durations'
import { Mark } from '../../ui/Mark'
import { useKeys } from '../../ui/useKeys'
import { clockTime, counted } from '../../ui/words'
import type { Attempt } from './queries'
import { clockFace } from './useLeft'

interface Props {
  attempt: Attempt
  left: number | null
  soFar: Attempt['so_far']
  savedAt: string | null
  /** Since when the server cannot be reached, if it cannot. */
  since: string | null
  /** Whether the server is there and in trouble. */
  trouble: boolean
  /** In a rehearsal: whether its connection is cut, and how to cut it or bring it back. */
  outage?: { offline: boolean; set: (offline: boolean) => void }
  onLeave: () => void
}

/** What is being done, when it was saved, the clock, and the way out. */
export function ExamTop(props: Props) {
  const { attempt, left, soFar, savedAt, since, trouble, outage, onLeave } = props
  const [hidden, setHidden] = useState(false)
  const [whole] = useState(() => Math.max(left ?? 0, ...attempt.warn_at.map((at) => at * 10), 1))
  const warning = useWarning(attempt.warn_at, left)
  useKeys({ t: left === null ? undefined : () => setHidden(!hidden), l: onLeave })
  return (
    <>
      <header className="on-deep flex flex-wrap items-center gap-x-4 gap-y-1 bg-deep px-5 py-2 text-on-deep @3xl:gap-x-6 @3xl:py-3 @5xl:px-8">
        <span className="hidden @3xl:block">
          <Mark />
        </span>
        <h1 className="font-heading text-lg font-semibold">
          {attempt.title}
          {attempt.number > 1 && (
            <span className="ml-3 font-sans text-base font-normal text-on-deep-2">
              {t`attempt ${attempt.number}`}
            </span>
          )}
        </h1>
        <p className="text-on-deep-2 tabular-nums @3xl:ml-auto">
          {savedAt ? t`saved ${clockTime(savedAt)}` : t`nothing saved yet`}
        </p>
        {soFar && (
          <p className="tabular-nums">
            <span className="font-heading text-xl font-semibold">{soFar.reached}</span>{' '}
            {t`of ${soFar.marked} points so far, ${soFar.of} in all; ${soFar.sent} of ${soFar.questions} answered`}
          </p>
        )}
        {left !== null && !hidden && (
          <p className="flex items-center gap-4">
            <span
              aria-hidden="true"
              className="hidden h-2.5 w-36 overflow-hidden rounded-full bg-on-deep/20 @3xl:block"
            >
              <span
                className="block h-full rounded-full bg-sun"
                style={{ width: `${100 * (1 - Math.min(1, left / whole))}%` }}
              />
            </span>
            <span className="font-heading text-xl font-semibold tabular-nums">
              {clockFace(left)} {t`left`}
            </span>
          </p>
        )}
        {left !== null && (
          <button
            type="button"
            onClick={() => setHidden(!hidden)}
            className="min-h-9 text-on-deep-2 underline-offset-4 hover:underline"
          >
            {hidden ? t`Show the clock` : t`Hide`}
          </button>
        )}
        {outage && (
          <button
            type="button"
            aria-pressed={outage.offline}
            onClick={() => outage.set(!outage.offline)}
            className="min-h-9 text-on-deep-2 underline-offset-4 hover:underline aria-pressed:font-semibold aria-pressed:text-on-deep"
          >
            {outage.offline ? t`Go online again` : t`Go offline`}
          </button>
        )}
        <button
          type="button"
          onClick={onLeave}
          className="ml-auto min-h-9 font-semibold underline-offset-4 hover:underline @3xl:ml-0"
        >{t`Leave`}</button>
      </header>
      <div role="status">
        {since && (
          <p className="bg-part-soft px-5 py-2 text-part @5xl:px-8">
            {trouble
              ? t`Something has been wrong on our side since ${clockTime(since)}. Your answers are saved here, and we keep sending them`
              : t`Offline since ${clockTime(since)}. Your answers are saved here and will be sent when you are back online`}
            {left === null ? '' : t`; the clock keeps running`}.
          </p>
        )}
        {warning && (
          <p className="border-b border-line bg-sheet px-5 py-2 @5xl:px-8">
            {t`${warning} left. Your answers are saved as you go.`}
          </p>
        )}
      </div>
    </>
  )
}

/** The words of the latest warning that was passed, for half a minute; each comes once. */
function useWarning(marks: number[], left: number | null): string | null {
  const [shown, setShown] = useState<number | null>(null)
  const passed = left === null ? [] : marks.filter((mark) => left <= mark && left > mark - 30)
  const mark = passed.length > 0 ? Math.min(...passed) : null
  useEffect(() => setShown(mark), [mark])
  if (shown === null) return null
  return shown % 60 === 0 ? minutes(shown / 60) : duration(shown)
}

const minutes = (count: number) => {
  const words = counted(count, 'minute')
  return words.charAt(0).toUpperCase() + words.slice(1)
}

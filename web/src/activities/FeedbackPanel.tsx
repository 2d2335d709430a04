import { t } from '@lingui/core/macro'
import { useLayoutEffect, useRef } from 'react'
import { Link } from 'react-router'
import { useTo } from '../account/course'
import type { Feedback, Question, Run } from '../api/client'
import { Button, buttonClass } from '../ui/Button'
import { Html } from '../ui/Html'
import { Sign } from '../ui/Sign'
import { useKeys } from '../ui/useKeys'
import { lowerFirst } from '../ui/words'
import { onward, type Ways } from './onward'
import { type Sheet, useStart } from './requests'
import type { RunActions } from './useRun'

const TONES: Record<
  Feedback['verdict'],
  { box: string; text: string; sign: 'right' | 'wrong' | 'partly' | 'note' }
> = {
  right: { box: 'bg-correct-soft', text: 'text-correct', sign: 'right' },
  wrong: { box: 'bg-wrong-soft', text: 'text-wrong', sign: 'wrong' },
  partly: { box: 'bg-part-soft', text: 'text-part', sign: 'partly' },
  waiting: { box: 'bg-part-soft', text: 'text-part', sign: 'note' },
  not_taught: { box: 'bg-rail', text: 'text-ink', sign: 'note' },
  not_counted: { box: 'bg-rail', text: 'text-ink', sign: 'note' },
}

const SHOWN: Feedback = {
  verdict: 'not_counted',
  headline: t`Here is the working.`,
  detail: '',
  parts: [],
  level: null,
  met: null,
  mended: false,
}

/** What came of an answer, and what to do next. Focus comes here, so that it is announced. */
export function FeedbackPanel({
  sheet,
  question,
  actions,
  ways,
}: {
  sheet: Sheet
  question: Question
  actions: RunActions
  ways: Ways
}) {
  const { run } = sheet
  const to = useTo()
  const feedback = sheet.feedback ?? SHOWN
  const tone = TONES[feedback.verdict]
  const heading = useRef<HTMLHeadingElement>(null)
  useLayoutEffect(() => heading.current?.focus({ preventScroll: false }), [])
  const study = question.closed ? run.study_first : null
  const main = onward(sheet, question, actions, ways)
  const can = (what: Question['can'][number]) => question.can.includes(what)
  useKeys({
    enter: () => {
      const active = document.activeElement
      if (active instanceof HTMLElement && active.matches('button, a, input')) active.click()
      else main?.act()
    },
  })
  const labels = new Map(question.parts.map((part) => [part.id, part.label]))
  const several = question.parts.length > 1

  return (
    <section aria-label={t`Feedback`} className={`mt-6 max-w-[46rem] rounded-box p-5 ${tone.box}`}>
      <div className="flex gap-4">
        <div className="pt-0.5">
          <Sign kind={tone.sign} size={26} word={false} />
        </div>
        <div className="min-w-0 flex-1">
          <h2 ref={heading} tabIndex={-1} className={`text-xl ${tone.text}`}>
            {feedback.headline}
          </h2>
          {feedback.detail && <p className="mt-1">{feedback.detail}</p>}
          {!sheet.feedback && (
            <p className="mt-1">
              {question.untouched
                ? t`This question is closed. It doesn’t count.`
                : t`This question is closed. Your first try has already counted.`}
            </p>
          )}
          {several && (
            <ul className="mt-2 grid gap-1">
              {feedback.parts
                .filter((part) => part.says || ['right', 'partly', 'wrong'].includes(part.result))
                .map((part) => (
                  <li key={part.id}>
                    <strong>{labels.get(part.id)}</strong>: {part.says ?? part.result}
                  </li>
                ))}
            </ul>
          )}
          {!question.closed && feedback.verdict !== 'not_counted' && question.hints.length > 0 && (
            <Html html={question.hints.at(-1) ?? ''} className="mt-1" />
          )}
          {feedback.level && (
            <p className="mt-2 text-ink-2 @5xl:hidden">{feedback.level.sentence}</p>
          )}
          {feedback.met && (
            <p className="mt-3 rounded-lg bg-sheet p-3 font-semibold text-correct">
              {feedback.met}
            </p>
          )}
          {feedback.mended && (
            <p className="mt-2 font-semibold text-correct">{t`Well done. This one is off your list of mistakes.`}</p>
          )}
          {run.goal?.reached && question.closed && (
            <p className="mt-2 font-semibold @5xl:hidden">{run.goal.says}</p>
          )}
          {study && (
            <p className="mt-3">{t`You’ve missed this twice in a row. Read about it before the next question: ${lowerFirst(study.title)}, ${study.minutes}\u00a0min.`}</p>
          )}
          <div className="mt-4 flex flex-wrap items-center gap-x-3 gap-y-2">
            {main && (
              <Button kind="strong" hint={main.hint} onClick={main.act}>
                {main.label}
              </Button>
            )}
            {feedback.met && (
              <Button onClick={actions.finish} disabled={actions.busy}>{t`Finish here`}</Button>
            )}
            {can('fresh') && (
              <Button
                hint="N"
                onClick={actions.fresh}
                disabled={actions.busy}
              >{t`Same idea, new numbers`}</Button>
            )}
            {can('working') && (
              <Button
                kind="quiet"
                hint="W"
                onClick={actions.working}
                disabled={actions.busy}
              >{t`Show me the working`}</Button>
            )}
            {can('undo') && (
              <Button kind="quiet" onClick={actions.undo} disabled={actions.busy}>{t`Undo`}</Button>
            )}
            {run.spell !== null && question.closed && (run.miss !== null || run.goal?.reached) && (
              <Link
                to={to(`/spell/${run.spell}`)}
                className={buttonClass(run.miss !== null ? 'strong' : 'plain')}
              >{t`Next task`}</Link>
            )}
            {run.miss !== null && run.spell === null && question.closed && (
              <AfterMend mended={feedback.mended} run={run} miss={run.miss} />
            )}
          </div>
        </div>
      </div>
    </section>
  )
}

/** The next of several that are taken one after another; else back to the list. */
function AfterMend({ mended, run, miss }: { mended: boolean; run: Run; miss: number }) {
  const start = useStart()
  const to = useTo()
  const { next_miss, miss_order } = run
  return (
    <>
      {next_miss === null ? (
        <Link to={to(mended ? '/review' : `/review/${miss}`)} className={buttonClass('strong')}>
          {mended ? t`All mistakes` : t`Back to the mistake`}
        </Link>
      ) : (
        <Button
          kind="strong"
          disabled={start.isPending}
          onClick={() => start.mutate({ purpose: 'missed', miss: next_miss, order: miss_order })}
        >{t`Next mistake`}</Button>
      )}
      {!mended && (
        <Button
          disabled={start.isPending}
          onClick={() => start.mutate({ purpose: 'missed', miss, order: miss_order })}
        >{t`Another with new numbers`}</Button>
      )}
      {start.error && (
        <p role="alert" className="w-full text-wrong">
          {start.error.message}
        </p>
      )}
    </>
  )
}

import { t } from '@lingui/core/macro'
import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { useAccountId, useCourse, useTo } from '../account/course'
import { keptFor } from '../account/session'
import type { Question } from '../api/client'
import { PaperWorking } from '../files/PaperWorking'
import { FilesAt, useFilesAt } from '../files/place'
import { useAloud } from '../player/aloud'
import { ConfidencePicker } from '../player/ConfidencePicker'
import { type Confidence, draftPlace, useDraft } from '../player/draft'
import { digitsOf, viewOf } from '../player/kinds/registry'
import { QuestionView } from '../player/QuestionView'
import { useReadBack } from '../player/readBack'
import { Solution } from '../player/Solution'
import { WorkingArea } from '../player/WorkingArea'
import { Button } from '../ui/Button'
import { Html } from '../ui/Html'
import { Sending } from '../ui/Sending'
import { useKeys } from '../ui/useKeys'
import { FeedbackPanel } from './FeedbackPanel'
import { GoesOn } from './GoesOn'
import { onward } from './onward'
import { requestsOf, type Sheet } from './requests'
import { SendState } from './SendState'
import { type Opened, Strip } from './Strip'
import { TakeABreak } from './TakeABreak'
import type { RunActions } from './useRun'

const STEPS: (Confidence | null)[] = [null, 50, 70, 90, 100]

interface Props {
  sheet: Sheet
  question: Question
  actions: RunActions
  /** Whether the study section was opened from here. */
  read: boolean
  onLeave: () => void
  onOpen: (what: Opened) => void
}

/** The question being worked on, its answer, and what came of it. */
export function Stage({ sheet, question, actions, read, onLeave, onOpen }: Props) {
  const { feedback, run } = sheet
  const answered = Object.fromEntries(question.states.map((s) => [s.id, s.answer]))
  const { draft, change } = useDraft(draftPlace(keptFor(useAccountId()), question.id), answered)
  const course = useCourse()
  const at = useFilesAt(question.id)
  const to = useTo()
  const navigate = useNavigate()
  const field = useRef<HTMLInputElement | null>(null)
  const heading = useRef<HTMLHeadingElement>(null)
  const asked = useRef<HTMLDivElement>(null)
  const aloud = useAloud()
  const [working, setWorking] = useState(
    draft.working.lines !== '' || draft.working.strokes.length > 0,
  )
  const { closed } = question
  const can = (what: Question['can'][number]) => question.can.includes(what)
  const ways = {
    read,
    onRead: () => onOpen('study'),
    onTryAgain: () => tryAgain(),
    onTimeUp: () => navigate(to(`/spell/${run.spell}`)),
  }
  const ahead = onward(sheet, question, actions, ways)

  useEffect(() => {
    if (!closed)
      void requestsOf(course)
        .shown(question.id)
        .catch(() => undefined)
  }, [course, question.id, closed])
  // With the question itself, so that no key pressed in between goes elsewhere.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new question wants the focus again
  useLayoutEffect(() => {
    if (!closed) (field.current ?? heading.current)?.focus({ preventScroll: true })
  }, [question.id, closed])

  const readBacks = useReadBack(
    draft.responses,
    !closed && question.parts.some((part) => viewOf(part).typed),
    (responses) => requestsOf(course).readBack(question.id, responses),
  )

  const set = (part: string, value: string) =>
    change({ responses: { ...draft.responses, [part]: value } })
  const tryAgain = () => {
    actions.dismiss()
    window.setTimeout(() => (field.current ?? heading.current)?.focus(), 0)
  }
  const send = () => actions.answer(draft)
  const reset = () =>
    change({ responses: Object.fromEntries(question.parts.map((part) => [part.id, ''])) })
  const openQuestion = !closed && !actions.busy
  const now = (act: () => void) => (actions.busy ? actions.tooSoon : act)
  const whenOpen = (act: () => void) => (closed ? undefined : now(act))
  const only = question.parts.length === 1 ? question.parts[0] : undefined
  // The newest hint stands in the feedback while that is shown.
  const hints =
    feedback?.verdict === 'wrong' && !closed ? question.hints.slice(0, -1) : question.hints
  const readAloud = () => {
    if (aloud.reading) aloud.stop()
    else aloud.start(asked.current, aloud.speed)
  }
  const counts = feedback && feedback.verdict !== 'not_counted'

  useKeys({
    ...Object.fromEntries(
      digitsOf(only).map((after, i) => [
        String(i + 1),
        only && whenOpen(() => set(only.id, after(draft.responses[only.id] ?? ''))),
      ]),
    ),
    c: can('sure')
      ? whenOpen(() =>
          change({
            confidence: STEPS[(STEPS.indexOf(draft.confidence) + 1) % STEPS.length] ?? null,
          }),
        )
      : undefined,
    h: can('hint') && question.hints_left > 0 ? whenOpen(actions.hint) : undefined,
    w: can('working') ? whenOpen(actions.working) : undefined,
    n: can('fresh') ? now(actions.fresh) : undefined,
    t: can('not_taught') ? whenOpen(actions.notTaught) : undefined,
    s: can('swap') ? whenOpen(actions.swap) : undefined,
    r: can('read') ? () => onOpen('study') : undefined,
    a: whenOpen(() => setWorking(!working)),
    o: readAloud,
    q: () => onOpen('ask'),
    v: () => onOpen('rail'),
    x: whenOpen(reset),
    y: () => onOpen('why'),
    l: onLeave,
    e: can('finish') ? now(actions.finish) : undefined,
    ']': closed && ahead?.act === actions.next ? actions.next : undefined,
    '?': () => onOpen('keys'),
  })

  return (
    <div className="flex min-w-0 flex-col">
      <main id="main" className="flex-1 px-5 pt-6 pb-8 @3xl:px-10 @5xl:px-[4.500rem]">
        <h2 ref={heading} tabIndex={-1} className="sr-only">
          {t`Question ${question.number}: ${question.title}`}
        </h2>
        <form
          onSubmit={(event) => {
            event.preventDefault()
            if (openQuestion) send()
            else if (!closed) actions.tooSoon()
          }}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && event.target instanceof HTMLInputElement)
              event.target.blur()
          }}
        >
          <div ref={asked}>
            <FilesAt value={at}>
              <QuestionView
                question={question}
                responses={draft.responses}
                read={readBacks}
                onChange={set}
                fieldRef={(node) => {
                  field.current = node
                }}
              />
            </FilesAt>
          </div>
          {hints.length > 0 && (
            <div className="mt-5 max-w-[42rem] border-l-4 border-gust-mid pl-4">
              {hints.map((hint, i) => (
                <div key={hint} className="mt-1 first:mt-0">
                  <span className="font-semibold">
                    {t`Hint`}
                    {question.hints.length > 1 && ` ${i + 1}`}:{' '}
                  </span>
                  <Html html={hint} className="inline [&_p]:inline" />
                </div>
              ))}
            </div>
          )}
          {!closed && (
            <div className="mt-5 flex flex-wrap items-end gap-x-7 gap-y-4">
              {can('sure') && (
                <ConfidencePicker
                  value={draft.confidence}
                  onChange={(confidence) => change({ confidence })}
                  disabled={actions.busy}
                />
              )}
              <Button
                type="submit"
                kind={feedback ? 'plain' : 'strong'}
                disabled={actions.busy}
                className="min-h-11"
              >{t`Send answer`}</Button>
              <Sending busy={actions.busy && !actions.waiting} />
              {can('not_taught') && (
                <Button
                  kind="quiet"
                  hint="T"
                  onClick={actions.notTaught}
                  disabled={actions.busy}
                >{t`I haven’t been taught this`}</Button>
              )}
            </div>
          )}
        </form>
        {working && !closed && (
          <WorkingArea working={draft.working} onChange={(next) => change({ working: next })} />
        )}
        <SendState actions={actions} />
        {(feedback || closed) && (
          <FeedbackPanel
            key={feedback ? feedback.headline + question.tries_left : 'closed'}
            sheet={sheet}
            question={question}
            actions={actions}
            ways={ways}
          />
        )}
        {question.solution && (
          <Solution
            steps={question.solution}
            source={question.source}
            figure={question.solution_figure}
          />
        )}
        {run.suggest_stop && counts && <TakeABreak why={run.suggest_stop} onLeave={onLeave} />}
        {(closed || working) && <PaperWorking at={at} />}
        <GoesOn />
      </main>
      <Strip
        question={question}
        answered={feedback !== undefined || closed}
        actions={actions}
        onOpen={onOpen}
        onReset={reset}
        working={working}
        onWorking={() => setWorking(!working)}
        aloud={aloud}
        onAloud={readAloud}
      />
    </div>
  )
}

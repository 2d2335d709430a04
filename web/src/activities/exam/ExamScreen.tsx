import { t } from '@lingui/core/macro'
import { useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useCallback, useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import type { Question } from '../../api/client'
import KeySheet from '../../ui/KeySheet'
import { Sheet } from '../../ui/Sheet'
import { useTitle } from '../../ui/useTitle'
import { CheckView } from './CheckView'
import { ExamStage } from './ExamStage'
import type { Opened, Shown } from './ExamStrip'
import { ExamTop } from './ExamTop'
import { Leaving } from './Leaving'
import { OverNote } from './OverNote'
import { PausedNote } from './PausedNote'
import { PlaceList } from './PlaceList'
import { type Attempt, attemptQuery, type Clock } from './queries'
import { Instrument } from './tools/Instrument'
import { loadCalculator } from './tools/loading'
import { useAttempt } from './useAttempt'
import { useLeft } from './useLeft'
import { useSoFar } from './useSoFar'

const KEYS: [string, string][] = [
  [t`1 to 9`, t`Choose an answer`],
  ['Enter', t`Next question, from a field`],
  ['Esc', t`Leave the field, so that shortcuts work`],
  ['[', t`Previous question or page`],
  [']', t`Next question or page`],
  ['F', t`Flag`],
  ['N', t`Note`],
  ['S', t`Cross out choices`],
  ['A', t`Working area`],
  ['M', t`Highlighter`],
  ['K', t`Calculator`],
  ['R', t`Ruler`],
  ['P', t`Protractor`],
  ['O', t`Read aloud, or stop`],
  ['U', t`Undo`],
  ['I', t`Redo`],
  ['X', t`Clear my answer`],
  ['T', t`Hide or show the clock`],
  ['V', t`List of questions, on a narrow screen`],
  ['C', t`Check and hand in`],
  ['L', t`Leave`],
  ['?', t`This sheet`],
]

const Calculator = lazy(loadCalculator)
const CALCULATORS = ['calculator', 'scientific'] as const
const NOTHING_LIES: Shown = { calculator: false, ruler: false, protractor: false }

/** One attempt: bar on top, questions at the left, the one worked on, tools at the bottom. */
export function ExamScreen({ attempt: loaded, entered }: { attempt: Attempt; entered: Clock }) {
  const [attempt, setAttempt] = useState(loaded)
  const going = useAttempt(attempt, entered)
  const to = useTo()
  const navigate = useNavigate()
  const first = attempt.places.find((place) => place.can_change) ?? attempt.places[0]
  const [at, setAt] = useState(first?.number ?? 1)
  const [asked, setAsked] = useState({})
  const [checking, setChecking] = useState(false)
  const [open, setOpen] = useState<Opened | null>(null)
  const [sent, setSent] = useState<Record<number, Question>>({})
  const { soFar, ask } = useSoFar(attempt)
  const [shown, setShown] = useState(NOTHING_LIES)
  const show = (what: keyof Shown) => setShown((now) => ({ ...now, [what]: !now[what] }))
  const paused = going.paused !== null
  const left = useLeft(going.clock, paused)
  const ended = useRef(false)
  useTitle(t`${attempt.title}, question ${at}`)

  const place = attempt.places.find((one) => one.number === at)
  const receipt = to(`/tests/attempts/${attempt.id}/receipt`)
  const handedIn = going.over?.why === 'handed_in'
  useEffect(() => {
    if (handedIn) navigate(receipt, { replace: true })
  }, [handedIn, navigate, receipt])
  const timed = attempt.sections.some(({ minutes }) => minutes !== null)
  const goesOn = timed && attempt.section + 1 < attempt.sections.length
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the time is up
  useEffect(() => {
    if (left === 0 && !ended.current && !going.over)
      void (goesOn ? going.sectionOver() : going.handIn())
    ended.current = left === 0
  }, [left, going.over])

  const course = useCourse()
  const cache = useQueryClient()
  const wasPaused = useRef(paused)
  const anew = useCallback(
    () => cache.fetchQuery({ ...attemptQuery(course, loaded.id), staleTime: 0 }),
    [cache, course, loaded.id],
  )
  useEffect(() => {
    // What was loaded in a pause could not be changed then.
    if (wasPaused.current && !paused) void anew().then(setAttempt)
    wasPaused.current = paused
  }, [anew, paused])
  // biome-ignore lint/correctness/useExhaustiveDependencies: when the section is another one
  useEffect(() => {
    if (going.section > attempt.section) void anew().then(goOn)
  }, [anew, going.section, attempt.section])

  /** Where the attempt is now, and the first question there. */
  const goOn = (next: Attempt) => {
    setAttempt(next)
    const following = next.places.find((one) => one.page > (place?.page ?? 0) && one.can_change)
    if (following) goTo(following.number)
  }
  const moveOn = async () => {
    const next = await going.moveOn(attempt)
    if (next) goOn(next)
  }
  const leave = async () => {
    const handed = await going.leave()
    navigate(handed ? receipt : to(`/tests/${attempt.ref}`))
  }
  const goTo = (number: number) => {
    setAt(number)
    setAsked({})
    setChecking(false)
    setOpen(null)
  }
  const list = (
    <PlaceList
      attempt={attempt}
      held={going.held}
      sent={sent}
      at={checking ? null : at}
      onGo={goTo}
      onCheck={() => {
        setChecking(true)
        setOpen(null)
      }}
    />
  )
  return (
    <div className="relative flex min-h-dvh flex-col">
      <ExamTop
        attempt={attempt}
        left={left}
        soFar={soFar}
        savedAt={latestOf(Object.values(going.held).map((one) => one.savedAt))}
        since={going.since}
        trouble={going.trouble}
        outage={attempt.rehearsal ? { offline: going.offline, set: going.setOffline } : undefined}
        onLeave={() => setOpen('leaving')}
      />
      {going.over?.why === 'elsewhere' && <OverNote says={going.over.says} />}
      {going.paused !== null && <PausedNote why={going.paused} />}
      <div
        hidden={paused}
        className="grid flex-1 grid-cols-[minmax(0,1fr)] grid-rows-[1fr_auto] @5xl:grid-cols-[17rem_minmax(0,1fr)]"
      >
        <aside aria-label={t`Questions`} className="hidden bg-rail px-4 py-5 @5xl:block">
          <div className="sticky top-5 flex max-h-[calc(100dvh-var(--bar,7rem)-6.5rem)] flex-col">
            {list}
          </div>
        </aside>
        {checking || !place ? (
          <CheckView
            attempt={attempt}
            held={going.held}
            sent={sent}
            left={left}
            over={going.over !== null}
            since={going.since}
            trouble={going.trouble}
            onGo={goTo}
            onHandIn={going.handIn}
          />
        ) : (
          <ExamStage
            key={place.page}
            attempt={attempt}
            at={place}
            asked={asked}
            sent={sent}
            going={going}
            onAt={setAt}
            onSent={(number, question) => {
              setSent((before) => ({ ...before, [number]: question }))
              ask()
            }}
            onGo={goTo}
            onMoveOn={moveOn}
            onCheck={() => setChecking(true)}
            onOpen={setOpen}
            shown={shown}
            onShow={show}
          />
        )}
      </div>
      {shown.ruler && <Instrument kind="ruler" onClose={() => show('ruler')} />}
      {shown.protractor && <Instrument kind="protractor" onClose={() => show('protractor')} />}
      {shown.calculator && (
        <Suspense fallback={null}>
          <Calculator
            kinds={CALCULATORS.filter((kind) => attempt.tools.includes(kind))}
            onClose={() => show('calculator')}
          />
        </Suspense>
      )}
      <KeySheet open={open === 'keys'} onOpenChange={() => setOpen(null)} keys={KEYS} />
      <Sheet open={open === 'list'} onOpenChange={() => setOpen(null)} title={t`Questions`}>
        <div className="mt-4">{list}</div>
      </Sheet>
      <Leaving
        attempt={attempt}
        open={open === 'leaving'}
        onClose={() => setOpen(null)}
        onLeave={leave}
      />
    </div>
  )
}

const latestOf = (moments: (string | null)[]) =>
  moments.reduce<string | null>((last, one) => (one && (!last || one > last) ? one : last), null)

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { kindOf } from '../../../activities/descriptors'
import type { Schemas, Step } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { DriftBar } from '../../../ui/DriftBar'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted, day } from '../../../ui/words'
import { isMet } from '../../reading/standing'
import { todayQuery } from '../queries'
import { Coming, PutAside } from './Coming'
import { OtherCourses } from './OtherCourses'
import { SetByTutor } from './SetByTutor'
import { StepButton } from './StepButton'

const SpellStart = lazy(() => import('./SpellStart'))
const StepChoices = lazy(() => import('./StepChoices'))

export function TodayPage() {
  useTitle(t`Today`)
  const query = useQuery(todayQuery(useCourse()))
  const to = useTo()
  return (
    <Loaded query={query} what={t`today`}>
      {(today) => (
        <main
          id="main"
          className="grid gap-x-12 gap-y-9 px-5 py-8 @5xl:grid-cols-[minmax(0,1fr)_30rem] @5xl:px-8"
        >
          <div className="min-w-0">
            <div className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
              <p className="text-ink-2">{today.greeting}</p>
              <HaveMinutes />
            </div>
            <h1 className="mt-0.5 text-3xl">{today.lead}</h1>
            <Steps steps={today.steps} day={today.day} />
            <SetByTutor />
            <UnderWay runs={today.under_way} steps={today.steps} />
            <Coming today={today} />
            <PutAside steps={today.put_aside} />
            <OtherCourses />
            <p className="mt-8 text-ink-2">
              {t`${today.pace} New here?`}{' '}
              <TextLink
                to={to('/rehearsal')}
                className="font-semibold"
              >{t`Try every kind of question`}</TextLink>
              {t`. It never counts.`}
            </p>
          </div>
          <Standing subjects={today.subjects} />
        </main>
      )}
    </Loaded>
  )
}

/** Minutes to be filled; the sheet is fetched when it is asked for. */
function HaveMinutes() {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button onClick={() => setOpen(true)}>{t`I have 20 minutes`}</Button>
      {open && (
        <Suspense>
          <SpellStart onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  )
}

function NotNow({ step, day }: { step: Step; day: string }) {
  return (
    <Suspense fallback={<span className="px-2 text-ink-2">{t`Not now`}</span>}>
      <StepChoices step={step} today={day} />
    </Suspense>
  )
}

function Steps({ steps, day }: { steps: Step[]; day: string }) {
  const [first, ...rest] = steps
  if (!first)
    return (
      <p className="mt-6 max-w-xl text-lg text-ink-2">{t`Nothing to do right now. You can practise any topic, or look at your levels.`}</p>
    )
  return (
    <section aria-label={t`Next steps`}>
      <FirstStep step={first} day={day} />
      <ul className="mt-2">
        {rest.map((step) => (
          <li
            key={`${step.kind}-${step.title}`}
            className="grid items-center gap-x-5 gap-y-2 border-b border-line py-4 @xl:grid-cols-[4.500rem_minmax(0,1fr)_auto]"
          >
            <span className="text-ink-2 tabular-nums">{t`${step.minutes} min`}</span>
            <div>
              <h2 className="font-sans text-[1.05rem] font-semibold">{step.title}</h2>
              <p className="text-ink-2">{step.reason}</p>
            </div>
            <span className="flex items-center gap-1">
              <StepButton step={step} kind="plain" />
              <NotNow step={step} day={day} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** About 14 questions (8 to 22). */
function questionsWords({ questions, fewest, most }: Step): string {
  const about = t`about ${counted(questions, 'question')}`
  if (fewest === null || most === null || most - fewest < 2) return about
  return t`${about} (${fewest} to ${most})`
}

function FirstStep({ step, day }: { step: Step; day: string }) {
  return (
    <div className="mt-5 rounded-box bg-sheet px-6 py-5 @3xl:px-8">
      <div className="flex flex-wrap items-start justify-between gap-x-8 gap-y-3">
        <div className="max-w-lg min-w-0 flex-1 basis-72">
          <h2 className="text-2xl">{step.title}</h2>
          <p className="mt-1.5 text-[1.05rem]">{step.reason}</p>
        </div>
        <div className="text-right">
          <StepButton step={step} kind="strong" minutes />
          {step.questions > 0 && (
            <p className="mt-1.5 text-sm text-ink-2">{questionsWords(step)}</p>
          )}
          <NotNow step={step} day={day} />
        </div>
      </div>
      {step.reading && (
        <div className="mt-4 grid grid-cols-[minmax(0,1fr)_auto] items-center gap-6">
          <DriftBar
            name={step.title}
            reading={step.reading}
            past={step.past}
            size="large"
            met={step.reading.at_target}
          />
          <p className="text-right leading-tight">
            <span className="font-heading text-3xl font-bold tabular-nums">
              {step.reading.level ?? '?'}
            </span>
            <span className="block text-sm text-ink-2">{t`target ${step.reading.target}`}</span>
          </p>
        </div>
      )}
    </div>
  )
}

function UnderWay({ runs, steps }: { runs: Schemas['UnderWayOut'][]; steps: Step[] }) {
  const to = useTo()
  const others = runs.filter((run) => !steps.some((step) => step.run === run.id))
  if (others.length === 0) return null
  return (
    <section className="mt-8">
      <h2 className="text-lg">{t`In progress`}</h2>
      <ul className="mt-1">
        {others.map((run) => (
          <li key={run.id} className="flex flex-wrap items-baseline gap-x-4 py-1.5">
            <TextLink to={to(`/run/${run.id}`)} className="font-semibold">
              {run.title}
            </TextLink>
            <span className="text-ink-2">
              {t`${kindOf(run.purpose)}, ${run.answered} answered, last ${day(run.touched_at)}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Standing({ subjects }: { subjects: Schemas['SubjectOut'][] }) {
  const to = useTo()
  const any = subjects.some((s) => s.topics.some((t) => t.answers > 0))
  return (
    <section aria-labelledby="stand" className="min-w-0">
      <div className="flex items-baseline justify-between gap-4">
        <h2 id="stand" className="text-xl">{t`Your levels`}</h2>
        <span className="text-sm text-ink-2">{t`yellow post: your target`}</span>
      </div>
      {subjects.map((subject) => (
        <div key={subject.key} className="mt-4">
          <h3 className="text-base text-ink-2">{subject.title}</h3>
          <ul className="mt-1">
            {subject.topics.map((topic) => (
              <li
                key={topic.key}
                className="grid grid-cols-[11.75rem_minmax(0,1fr)_2.250rem] items-center gap-x-4 py-1"
              >
                <Link to={to(`/topics/${topic.key}`)} className="hover:underline">
                  {topic.title}
                </Link>
                {topic.state === 'not_yet' ? (
                  <span className="text-sm text-ink-3">{t`not taught yet`}</span>
                ) : (
                  <DriftBar name={topic.title} reading={topic.reading} met={isMet(topic)} />
                )}
                <span className="text-right font-heading font-semibold tabular-nums">
                  {topic.state !== 'not_yet' &&
                    (topic.reading.level ?? <span className="text-ink-3">?</span>)}
                </span>
              </li>
            ))}
          </ul>
        </div>
      ))}
      <p className="mt-4 text-sm text-ink-2">
        {any
          ? t`A short bar means we are sure. A long pale bar means we don’t know yet.`
          : t`Long pale bars mean we don’t know your levels yet. They get shorter as you answer.`}
      </p>
    </section>
  )
}

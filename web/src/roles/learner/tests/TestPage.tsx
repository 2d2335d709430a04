import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { startAttempt, testQuery } from '../../../activities/exam/queries'
import { useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { DriftBar } from '../../../ui/DriftBar'
import { Problem } from '../../../ui/Field'
import { Html } from '../../../ui/Html'
import { setPreferences, usePreferences } from '../../../ui/preferences'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted, moment } from '../../../ui/words'
import { StudyFirst } from './StudyFirst'

type Page = Schemas['TestPageOut']

/** What text starts at for whoever has large print, per cent. */
const LARGE = 150

/** A test's own page: everything on it before it starts, and every attempt so far. */
export default function TestPage() {
  const { ref = '' } = useParams()
  const query = useQuery(testQuery(useCourse(), ref))
  useTitle(query.data?.title ?? t`Test`)
  return (
    <Loaded query={query} what={t`the test`}>
      {(page) => <Test page={page} />}
    </Loaded>
  )
}

function Test({ page }: { page: Page }) {
  const to = useTo()
  const practice = useStart()
  const dates = [
    page.opens && t`opens ${moment(page.opens)}`,
    page.due && t`due ${moment(page.due)}`,
    page.closes && t`closes ${moment(page.closes)}`,
  ].filter(Boolean)
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={to('/tests')}>{t`All tests`}</TextLink>
      <div className="mt-1 flex flex-wrap items-start justify-between gap-x-8 gap-y-4">
        <div className="max-w-2xl">
          <h1 className="text-3xl">{page.title}</h1>
          <p className="mt-1.5 text-[1.05rem] text-ink-2">
            {page.rehearsal
              ? t`Try everything before your first test. Nothing here counts, and you can start again as often as you like.`
              : page.mirror
                ? t`The same questions with new numbers, as often as you like. It never counts.`
                : dates.length > 0
                  ? `${dates.join(', ')}.`.replace(/^./, (first) => first.toUpperCase())
                  : t`You can take it at any time.`}
          </p>
          {page.allowed && <p className="mt-1.5 font-semibold">{page.allowed}</p>}
        </div>
        <Start page={page} />
      </div>
      <StudyFirst heading={t`Study first`} sections={page.first} />
      <div className="mt-7 grid gap-x-12 gap-y-8 @5xl:grid-cols-[minmax(0,1fr)_minmax(0,28rem)]">
        <section aria-labelledby="how">
          <h2 id="how" className="text-xl">{t`How it works`}</h2>
          {page.directions_html && (
            <Html html={page.directions_html} className="prose-study mt-2" />
          )}
          <dl className="mt-2 grid grid-cols-[auto_minmax(0,1fr)] gap-x-6">
            {page.lines.map((line) => (
              <div
                key={line.about + line.says}
                className="col-span-2 grid grid-cols-subgrid border-b border-line py-2"
              >
                <dt className="text-ink-2">{line.about}</dt>
                <dd>{line.says}</dd>
              </div>
            ))}
            {page.materials && (
              <div className="col-span-2 grid grid-cols-subgrid border-b border-line py-2">
                <dt className="text-ink-2">{t`Bring`}</dt>
                <dd>{page.materials}</dd>
              </div>
            )}
          </dl>
        </section>
        {!page.rehearsal && (
          <section aria-labelledby="covers">
            <h2 id="covers" className="text-xl">{t`What it covers, and your levels`}</h2>
            <ul className="mt-2">
              {page.ideas.map(({ topic, reading, questions }) => (
                <li key={topic.key} className="border-b border-line py-2.5">
                  <p className="flex justify-between gap-4">
                    <TextLink to={to(`/topics/${topic.key}`)}>{topic.title}</TextLink>
                    <span className="text-ink-2">{counted(questions, 'question')}</span>
                  </p>
                  <DriftBar name={topic.title} reading={reading} met={reading.at_target} />
                </li>
              ))}
            </ul>
            <p className="mt-3 flex flex-wrap gap-3">
              <Button
                disabled={practice.isPending}
                onClick={() =>
                  practice.mutate({
                    purpose: 'practice',
                    topics: page.ideas.map(({ topic }) => topic.key),
                  })
                }
              >{t`Practise these topics`}</Button>
              {page.mirror_ref && (
                <Link
                  to={to(`/tests/${page.mirror_ref}`)}
                  className={buttonClass('plain')}
                >{t`Practise with new numbers`}</Link>
              )}
            </p>
            {page.mirror_says && (
              <p className="mt-2 text-[0.95rem] text-ink-2">{page.mirror_says}</p>
            )}
            <Problem error={practice.error} />
          </section>
        )}
      </div>
      <Attempts page={page} />
    </main>
  )
}

/** The one way to begin: asked once more, since a clock may start. */
function Start({ page }: { page: Page }) {
  const course = useCourse()
  const to = useTo()
  const navigate = useNavigate()
  const [asked, setAsked] = useState(false)
  const { textSize } = usePreferences()
  const start = useMutation({
    mutationFn: () => startAttempt(course, page.ref),
    onSuccess: (attempt) => {
      if (page.large_print && textSize < LARGE) setPreferences({ textSize: LARGE })
      navigate(to(`/attempts/${attempt.id}`))
    },
  })
  const time = page.lines.find((line) => line.about === 'Time')?.says ?? ''
  const leaving = page.lines.find((line) => line.about === 'Leaving')?.says ?? ''
  if (page.under_way !== null)
    return (
      <Link
        to={to(`/attempts/${page.under_way}`)}
        className={buttonClass('strong')}
      >{t`Continue the test`}</Link>
    )
  if (!page.can_start) return <p className="text-ink-2">{page.why_not}</p>
  return (
    <div>
      <Button kind="strong" onClick={() => setAsked(true)}>
        {page.attempts.length > 0 ? t`Start another attempt` : t`Start the test`}
      </Button>
      <Dialog.Root open={asked} onOpenChange={setAsked}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 bg-ink/45" />
          <Dialog.Content className="fixed top-1/2 left-1/2 w-[min(30rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-box bg-sheet p-6 shadow-xl">
            <Dialog.Title className="text-xl">{t`Start now?`}</Dialog.Title>
            <Dialog.Description className="mt-2 text-ink-2">
              {time} {leaving}
            </Dialog.Description>
            <Problem error={start.error} />
            <div className="mt-5 flex gap-3">
              <Button
                kind="strong"
                disabled={start.isPending}
                onClick={() => start.mutate()}
              >{t`Start`}</Button>
              <Button kind="quiet" onClick={() => setAsked(false)}>{t`Not now`}</Button>
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </div>
  )
}

function Attempts({ page }: { page: Page }) {
  const to = useTo()
  if (page.attempts.length === 0) return null
  return (
    <section aria-labelledby="attempts" className="mt-8 max-w-3xl">
      <h2 id="attempts" className="text-xl">{t`Your attempts`}</h2>
      {page.counts && !page.rehearsal && (
        <p className="mt-1 text-ink-2">{t`What counts: ${page.counts}.`}</p>
      )}
      <ul className="mt-1">
        {page.attempts.map((attempt) => (
          <li
            key={attempt.id}
            className="grid gap-x-6 border-b border-line py-2.5 @3xl:grid-cols-[6rem_minmax(0,1fr)_10rem_8rem]"
          >
            <span className="font-semibold">{t`Attempt ${attempt.number}`}</span>
            <span className="text-ink-2">
              {t`started ${moment(attempt.begun)}`}
              {attempt.handed_in && t`, handed in ${moment(attempt.handed_in)}`}
            </span>
            <span className="tabular-nums">
              {attempt.points
                ? t`${attempt.points.reached} of ${attempt.points.of}`
                : attempt.handed_in
                  ? t`not shown yet`
                  : t`in progress`}
            </span>
            {attempt.handed_in && (
              <TextLink to={to(`/tests/attempts/${attempt.id}/results`)}>{t`Results`}</TextLink>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

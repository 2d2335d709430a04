import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { ApiError } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, buttonClass } from '../../ui/Button'
import { Input, Labelled, Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted } from '../../ui/words'
import { Moderation } from './Moderation'
import { adjustMarker, markingQuery, type Queue, releaseMarks, setSecond } from './queries'

/** The marking of a test: question by question, and the letting out of marks. */
export default function MarkingPage() {
  const group = Number(useParams().group)
  const assignment = Number(useParams().assignment)
  const query = useQuery(markingQuery(group, assignment))
  useTitle(t`Marking`)
  return (
    <Loaded query={query} what={t`the marking`}>
      {(queue) => <Marking group={group} assignment={assignment} queue={queue} />}
    </Loaded>
  )
}

function Marking(props: { group: number; assignment: number; queue: Queue }) {
  const { group, assignment, queue } = props
  const cache = useQueryClient()
  const change = useMutation({
    mutationFn: (act: () => Promise<Queue>) => act(),
    onSuccess: (next) => {
      void cache.invalidateQueries({ queryKey: keys.marking })
      cache.setQueryData(keys.markingOf(group, assignment), next)
    },
    onError: (error) => {
      if (error instanceof ApiError && error.standing)
        void cache.invalidateQueries({ queryKey: keys.markingOf(group, assignment) })
    },
  })
  const waiting = queue.questions.reduce((sum, one) => sum + one.parts - one.marked, 0)
  const held = queue.attempts.filter((one) => !one.out)
  const ready = queue.attempts.filter(
    (one) => one.changed || (!one.out && one.marked === one.parts && one.differ === 0),
  )
  const isSecond = queue.role === 'second'
  const [waived, setWaived] = useState('')
  const needsReason = change.error instanceof ApiError && change.error.code === 'second_missing'
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={`/tutor/work/${group}/${assignment}`}>{queue.test}</TextLink>
      <h1 className="mt-1 text-3xl">{t`Marking`}</h1>
      <p className="mt-1.5 text-ink-2" aria-live="polite">
        {waiting === 0
          ? t`Every answer is marked.`
          : t`${capital(counted(waiting, 'answer'))} to mark.`}{' '}
        {held.length === 0
          ? t`All marks are released.`
          : t`Results of ${counted(held.length, 'attempt')} are not released yet. Their learners can see that.`}
      </p>
      <Problem error={change.error} />
      <div className="mt-6 grid gap-x-12 gap-y-8 @5xl:grid-cols-2">
        <section aria-labelledby="questions">
          <h2 id="questions" className="text-xl">{t`Question by question`}</h2>
          <ul className="mt-1">
            {queue.questions.map((one) => (
              <li
                key={one.family}
                className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2.5"
              >
                <TextLink
                  to={`/tutor/work/${group}/${assignment}/marking/${one.family}`}
                  className="min-w-0 flex-1 basis-56 font-semibold"
                >
                  {one.title}
                </TextLink>
                <span className="tabular-nums">{t`${one.marked} of ${one.parts} marked`}</span>
                {one.differ > 0 && (
                  <span className="text-part">{t`${counted(one.differ, 'answer')} to agree on`}</span>
                )}
                {one.agreement !== null && (
                  <span
                    className="text-ink-2 tabular-nums"
                    title={t`How far the two markers agree (weighted kappa): 1 is full agreement, 0 is chance`}
                  >
                    {t`agreement ${one.agreement.toFixed(2)}`}
                  </span>
                )}
              </li>
            ))}
          </ul>
          {queue.questions.length === 0 && (
            <p className="mt-1 text-ink-2">{t`Nothing in this test is marked by hand.`}</p>
          )}
          <Moderation
            queue={queue}
            busy={change.isPending}
            onSecond={(person, sample) =>
              change.mutate(() =>
                setSecond(group, assignment, person, sample, queue.second_version),
              )
            }
            onAdjust={(body) => change.mutate(() => adjustMarker(group, assignment, body))}
          />
        </section>
        <section aria-labelledby="attempts">
          <div className="flex flex-wrap items-center justify-between gap-3">
            <h2 id="attempts" className="text-xl">{t`Release marks`}</h2>
            <Button
              kind="strong"
              disabled={ready.length === 0 || change.isPending || isSecond}
              onClick={() => change.mutate(() => releaseMarks(group, assignment, null))}
            >
              {ready.length === 0
                ? t`No marks to release`
                : t`Release ${counted(ready.length, 'attempt')}`}
            </Button>
          </div>
          {isSecond && (
            <p className="mt-1 text-ink-2">{t`You are the second marker. The first marker releases the marks.`}</p>
          )}
          {(needsReason || waived) && (
            <Labelled
              label={t`Why release without the second marking? It is kept with your name.`}
              className="mt-3 max-w-md"
            >
              <Input
                value={waived}
                maxLength={200}
                onChange={(event) => setWaived(event.target.value)}
              />
            </Labelled>
          )}
          <ul className="mt-1">
            {queue.attempts.map((one) => (
              <li
                key={one.attempt}
                className="flex flex-wrap items-center gap-x-4 border-b border-line py-1.5"
              >
                <span className="min-w-0 flex-1 basis-40">{one.name}</span>
                <span className="text-ink-2 tabular-nums">
                  {one.parts === 0 ? t`nothing to mark` : t`${one.marked} of ${one.parts} marked`}
                  {one.differ > 0 && t`, not agreed`}
                  {one.changed && t`, changed since its release`}
                </span>
                {one.out && !one.changed ? (
                  <span className="w-32 text-right text-ink-2">{t`released`}</span>
                ) : (
                  <Button
                    kind="quiet"
                    className="w-32"
                    aria-label={t`Release what ${one.name} has so far`}
                    disabled={
                      change.isPending ||
                      isSecond ||
                      one.differ > 0 ||
                      (one.parts > 0 && one.marked === 0)
                    }
                    onClick={() =>
                      change.mutate(() =>
                        releaseMarks(group, assignment, [one.attempt], waived.trim()),
                      )
                    }
                  >
                    {one.marked === one.parts ? t`Release` : t`Release so far`}
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <Link
            to={`/tutor/work/${group}/${assignment}`}
            className={`${buttonClass('quiet')} -ml-2`}
          >{t`Who is taking the test`}</Link>
        </section>
      </div>
    </main>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { useCourse, useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { moment } from '../../../ui/words'
import { waitingWorkQuery } from '../queries'

const OtherDifficulty = lazy(() => import('./OtherDifficulty'))

/** What a tutor has set: fetched beside Today, so that the next steps don’t wait for it. */
export function SetByTutor() {
  const query = useQuery(waitingWorkQuery(useCourse()))
  return (
    <Loaded query={query} what={t`the work set by your tutor`}>
      {({ tests, tasks, challenge, rehearsal }) => (
        <>
          {challenge && (
            <Suspense>
              <OtherDifficulty what={challenge} />
            </Suspense>
          )}
          <Waiting tests={tests} tasks={tasks} rehearsal={rehearsal} />
        </>
      )}
    </Loaded>
  )
}

/** Offered before the first test of a learner. */
function Rehearse({ rehearsal }: { rehearsal: string }) {
  const to = useTo()
  return (
    <p className="mt-1 mb-1.5">
      {t`Your first test here?`}{' '}
      <TextLink
        to={to(`/tests/${rehearsal}`)}
        className="font-semibold"
      >{t`Rehearse one first`}</TextLink>
      {t`, with every tool. It never counts.`}
    </p>
  )
}

/** Tests and other work that can be done now: in progress, late, or not started. */
function Waiting({ tests, tasks, rehearsal }: Omit<Schemas['WaitingWorkOut'], 'challenge'>) {
  const to = useTo()
  if (tests.length + tasks.length === 0) return null
  return (
    <section className="mt-8">
      <h2 className="text-lg">{t`Set by your tutor`}</h2>
      {rehearsal && <Rehearse rehearsal={rehearsal} />}
      <ul className="mt-1">
        {tasks.map((task) => (
          <li key={task.id} className="flex flex-wrap items-baseline gap-x-4 py-1.5">
            <TextLink to={to(`/work/${task.id}`)} className="font-semibold">
              {task.title}
            </TextLink>
            <span className={task.state === 'late' ? 'text-wrong' : 'text-ink-2'}>
              {task.state === 'under_way' && `${task.made}, `}
              {task.state === 'late' && 'late, '}
              {task.due ? t`due ${moment(task.due)}` : t`at any time`}
            </span>
          </li>
        ))}
        {tests.map((test) => (
          <li key={test.ref} className="flex flex-wrap items-baseline gap-x-4 py-1.5">
            <TextLink to={to(`/tests/${test.ref}`)} className="font-semibold">
              {test.title}
            </TextLink>
            <span className={test.state === 'late' ? 'text-wrong' : 'text-ink-2'}>
              {test.state === 'under_way' && t`in progress, `}
              {test.state === 'late' && 'late, '}
              {test.due
                ? t`due ${moment(test.due)}`
                : test.closes
                  ? t`closes ${moment(test.closes)}`
                  : t`at any time`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

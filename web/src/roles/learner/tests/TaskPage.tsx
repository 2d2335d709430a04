import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense } from 'react'
import { useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { taskQuery } from '../../../activities/exam/queries'
import { type Start, useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { capital, moment } from '../../../ui/words'
import { StudyFirst } from './StudyFirst'

const HandIn = lazy(() => import('./HandIn'))

type Task = Schemas['OwnTaskOut']

function startOf(task: Task): Start | null {
  const { topics } = task
  switch (task.kind) {
    case 'target':
      return { purpose: 'practice', topics }
    case 'ideas':
      return { purpose: 'practice', topics, goal: { kind: 'ideas', families: task.families } }
    case 'questions':
      return {
        purpose: 'practice',
        topics,
        goal: { kind: 'questions', questions: task.questions, families: [] },
      }
    case 'diagnostic':
      return { purpose: 'diagnostic', subject: task.subject }
    default:
      return null
  }
}

/** Work that was set: what it is, how far it is, and the way to begin or carry on. */
export default function TaskPage() {
  const id = Number(useParams().id)
  const query = useQuery(taskQuery(useCourse(), id))
  useTitle(query.data?.title ?? t`Set work`)
  return (
    <Loaded query={query} what={t`the work`}>
      {(task) => <Work task={task} />}
    </Loaded>
  )
}

function Work({ task }: { task: Task }) {
  const to = useTo()
  const start = useStart()
  const begin = startOf(task)
  const dates = [
    task.opens && t`opens ${moment(task.opens)}`,
    task.due && t`due ${moment(task.due)}`,
    task.closes && t`closes ${moment(task.closes)}`,
  ].filter(Boolean)
  return (
    <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
      <TextLink to={to('/tests')}>{t`Tests and set work`}</TextLink>
      <h1 className="mt-1 text-3xl">{task.title}</h1>
      <p className="mt-1.5 text-[1.05rem]">{task.says}</p>
      <p className="mt-1.5 text-ink-2">
        {capital(task.made)}
        {dates.length > 0 && `; ${dates.join(', ')}`}.
        {task.state === 'late' && t` It is late, but you can still do it.`}
        {task.state === 'closed' && t` It is closed.`}
        {task.state.startsWith('done') && t` It is done.`}
      </p>
      <StudyFirst sections={task.first} heading={t`Study first`} />
      <StudyFirst sections={task.study} heading={t`To read`} />
      {begin && task.can_begin && (
        <Button
          kind="strong"
          className="mt-6"
          disabled={start.isPending}
          onClick={() => start.mutate(begin)}
        >
          {task.state === 'not_begun' ? t`Start` : t`Continue`}
        </Button>
      )}
      <Problem error={start.error} />
      {task.hands_in && (
        <Suspense>
          <HandIn task={task.id} />
        </Suspense>
      )}
    </main>
  )
}

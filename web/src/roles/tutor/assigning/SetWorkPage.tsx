import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { buttonClass } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { capital, counted, moment } from '../../../ui/words'
import { PractiseButton } from '../../composing/PractiseButton'
import {
  type GroupTask,
  groupTasksQuery,
  groupTestsQuery,
  withdrawTask,
  withdrawTest,
} from '../queries'
import { AssignAgain, Withdraw } from './Withdraw'

type Line = Schemas['GroupTestOut']

/** Work of a group: not started, started, done; and the way to set more. */
export default function SetWorkPage() {
  const id = Number(useParams().group)
  const query = useQuery(groupTestsQuery(id))
  const work = useQuery(groupTasksQuery(id)).data
  const tasks = work?.tasks ?? []
  useTitle(t`Work of the group`)
  return (
    <Loaded query={query} what={t`the work`}>
      {({ group, course, tests, withdrawn }) => {
        const open =
          tests.filter((test) => test.states.not_begun + test.states.left > 0).length +
          tasks.filter((task) => task.learners.some((one) => waits(one.state))).length
        return (
          <main id="main" className="px-5 py-8 @5xl:px-8">
            <TextLink to={`/tutor/groups/${id}`}>{group}</TextLink>
            <div className="mt-1 flex flex-wrap items-start justify-between gap-4">
              <div>
                <h1 className="text-3xl">{t`Work you’ve set`}</h1>
                <p className="mt-1.5 text-ink-2">
                  {tests.length + tasks.length === 0
                    ? t`No work set yet.`
                    : open === 0
                      ? t`Everyone has finished.`
                      : t`${capital(counted(open, 'assignment'))} still to be finished by somebody.`}
                </p>
              </div>
              <p className="flex flex-wrap gap-3">
                <Link
                  to={`/tutor/tests/${course}`}
                  className={buttonClass('plain')}
                >{t`Tests of the course`}</Link>
                <Link
                  to={`/tutor/work/${id}/new`}
                  className={buttonClass('strong')}
                >{t`Set work`}</Link>
              </p>
            </div>
            <AssignAgain group={id} tests={withdrawn} tasks={work?.withdrawn ?? []} />
            {tasks.length > 0 && (
              <h2 className="mt-7 text-xl">{t`Practice, reading and work to hand in`}</h2>
            )}
            <ul>
              {tasks.map((task) => (
                <TaskLine key={task.id} group={id} task={task} />
              ))}
            </ul>
            {tests.length > 0 && <h2 className="mt-7 text-xl">{t`Tests`}</h2>}
            <ul>
              {tests.map((test) => (
                <TestLine key={test.id} group={id} course={course} test={test} />
              ))}
            </ul>
          </main>
        )
      }}
    </Loaded>
  )
}

const waits = (state: string) => ['not_begun', 'under_way', 'late'].includes(state)

const STATES: [keyof Line['states'], string][] = [
  ['not_begun', t`not started`],
  ['under_way', t`in progress`],
  ['left', t`started, not finished`],
  ['waiting', t`not marked yet`],
  ['marked', 'marked'],
]

const datesOf = (one: { opens: string | null; due: string | null; closes: string | null }) =>
  [
    one.opens && t`opens ${moment(one.opens)}`,
    one.due && t`due ${moment(one.due)}`,
    one.closes && t`closes ${moment(one.closes)}`,
  ]
    .filter(Boolean)
    .join(', ')

const forSome = (whole: boolean, learners: number) =>
  whole ? '' : t`for ${counted(learners, 'learner')} of the group`

function TestLine({ group, course, test }: { group: number; course: string; test: Line }) {
  const cache = useQueryClient()
  const back = useMutation({
    mutationFn: () => withdrawTest(group, test.id),
    onSuccess: (next) => cache.setQueryData(keys.groupTests(group), next),
  })
  const { under_way, left, waiting, marked } = test.states
  const dates = datesOf(test)
  const some = forSome(test.whole_group, test.learners)
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_22rem_8rem]">
      <div>
        <h3 className="font-sans text-lg font-semibold">
          <TextLink to={`/tutor/work/${group}/${test.id}`}>{test.title}</TextLink>
        </h3>
        <p className="text-ink-2">
          {t`${capital(counted(test.questions, 'question'))}, ${test.points} points`}
          {[dates, some].filter(Boolean).map((part) => `; ${part}`)}
        </p>
      </div>
      <p className="tabular-nums">
        {STATES.filter(([key]) => test.states[key] > 0)
          .map(([key, word]) => `${test.states[key]} ${word}`)
          .join(', ')}
      </p>
      <p className="text-ink-2 tabular-nums">{test.mean && t`mean ${test.mean}`}</p>
      <p className="flex flex-wrap gap-1 @3xl:col-span-3">
        <Link
          to={`/tutor/work/${group}/${test.id}/change`}
          aria-label={t`Change dates and learners of ${test.title}`}
          className={`${buttonClass('quiet')} -ml-2`}
        >{t`Change dates and learners`}</Link>
        <PractiseButton course={course} test={`given-${test.id}`} title={test.title} />
        {under_way + left + waiting + marked === 0 && (
          <Withdraw title={test.title} busy={back.isPending} onTake={() => back.mutate()} />
        )}
      </p>
      <Problem error={back.error} />
    </li>
  )
}

const TASK_STATES: [string, string][] = [
  ['not_open', t`not open yet`],
  ['not_begun', t`not started`],
  ['under_way', t`in progress`],
  ['late', 'late'],
  ['done', 'done'],
  ['done_late', t`done late`],
  ['closed', t`closed, not done`],
]

function TaskLine({ group, task }: { group: number; task: GroupTask }) {
  const cache = useQueryClient()
  const back = useMutation({
    mutationFn: () => withdrawTask(group, task.id),
    onSuccess: (next) => cache.setQueryData(keys.groupTasks(group), next),
  })
  const dates = datesOf(task)
  const some = forSome(task.whole_group, task.learners.length)
  const at = `/tutor/work/${group}/tasks/${task.id}`
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_30rem]">
      <div>
        <h3 className="font-sans text-lg font-semibold">{task.title}</h3>
        <p className="text-ink-2">
          {task.says} {capital([dates, some].filter(Boolean).join('; '))}
        </p>
      </div>
      <details>
        <summary className="cursor-pointer tabular-nums">
          {TASK_STATES.map(
            ([state, word]) =>
              [task.learners.filter((one) => one.state === state).length, word] as const,
          )
            .filter(([count]) => count > 0)
            .map(([count, word]) => `${count} ${word}`)
            .join(', ')}
        </summary>
        <ul className="mt-1">
          {task.learners.map((one) => (
            <li key={one.learner} className="flex justify-between gap-4 py-0.5">
              <TextLink to={`/tutor/learners/${one.learner}`}>{one.name}</TextLink>
              <span className="text-ink-2 tabular-nums">
                {TASK_STATES.find(([state]) => state === one.state)?.[1]}
                {t`, ${one.done} of ${one.of}`}
              </span>
            </li>
          ))}
        </ul>
      </details>
      <p className="flex flex-wrap gap-1 @3xl:col-span-2">
        {(task.asks.files !== 'none' || task.asks.links !== 'none') && (
          <Link
            to={`${at}/hand-ins`}
            aria-label={t`What was handed in for ${task.title}`}
            className={`${buttonClass('quiet')} -ml-2`}
          >
            {task.to_mark > 0 ? t`Handed in: ${task.to_mark} to mark` : t`Handed in`}
          </Link>
        )}
        <Link
          to={`${at}/change`}
          aria-label={t`Change dates and learners of ${task.title}`}
          className={`${buttonClass('quiet')} -ml-2`}
        >{t`Change dates and learners`}</Link>
        <Link
          to={`/tutor/work/${group}/new?task=${task.id}`}
          aria-label={t`Set ${task.title} again`}
          className={buttonClass('quiet')}
        >{t`Set it again`}</Link>
        <Withdraw title={task.title} busy={back.isPending} onTake={() => back.mutate()} />
      </p>
      <Problem error={back.error} />
    </li>
  )
}

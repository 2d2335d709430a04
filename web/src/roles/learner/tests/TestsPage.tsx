import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useCourse, useTo } from '../../../account/course'
import { tasksQuery, testsQuery } from '../../../activities/exam/queries'
import type { Schemas } from '../../../api/client'
import { fieldClass, Labelled } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { capital, counted, moment } from '../../../ui/words'

type Line = Schemas['TestLineOut']
type Task = Schemas['OwnTaskOut']

export const STATES: Record<Line['state'], string> = {
  not_open: t`not open yet`,
  not_begun: t`not started`,
  late: t`late, not started`,
  under_way: t`in progress`,
  handed_in: t`handed in`,
  waiting: t`not marked yet`,
  marked: 'marked',
  closed: t`closed, not started`,
}
const TASK_STATES: Record<Task['state'], string> = {
  not_open: t`not open yet`,
  not_begun: t`not started`,
  under_way: t`in progress`,
  late: 'late',
  done: 'done',
  done_late: t`done late`,
  closed: t`closed, not done`,
}

/** Every test and other work set for the learner; narrowed by kind, subject and state. */
export default function TestsPage() {
  const course = useCourse()
  const query = useQuery(testsQuery(course))
  const tasks = useQuery(tasksQuery(course))
  useTitle(t`Tests`)
  return (
    <Loaded query={query} what={t`your tests`}>
      {({ tests, rehearsal }) => (
        <Loaded query={tasks} what={t`your work`}>
          {(work) => <Tests tests={tests} tasks={work.tasks} rehearsal={rehearsal} />}
        </Loaded>
      )}
    </Loaded>
  )
}

function Tests({
  tests,
  tasks,
  rehearsal,
}: {
  tests: Line[]
  tasks: Task[]
  rehearsal: string | null
}) {
  const to = useTo()
  const [kind, setKind] = useState('')
  const [subject, setSubject] = useState('')
  const [state, setState] = useState('')
  const subjects = new Map(tests.flatMap((test) => test.subjects.map((s) => [s.key, s.title])))
  const said = [
    ...tests.map((test) => STATES[test.state]),
    ...tasks.map((task) => TASK_STATES[task.state]),
  ]
  const states = [...new Set(said)]
  const shownTasks =
    kind === 'tests' || subject
      ? []
      : tasks.filter((task) => !state || TASK_STATES[task.state] === state)
  const shown = tests.filter(
    (test) =>
      kind !== 'work' &&
      (!subject || test.subjects.some((one) => one.key === subject)) &&
      (!state || STATES[test.state] === state),
  )
  const openTests = tests.filter((test) => ['not_begun', 'late', 'under_way'].includes(test.state))
  const openTasks = tasks.filter((task) => task.can_begin)
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Tests and set work`}</h1>
      <p className="mt-1.5 text-ink-2">{lead(tests, tasks, openTests.length, openTasks.length)}</p>
      {rehearsal && (
        <p className="mt-1.5">
          <TextLink
            to={to(`/tests/${rehearsal}`)}
            className="font-semibold"
          >{t`Rehearse a test`}</TextLink>
          {t`, as often as you like. It never counts.`}
        </p>
      )}
      {tests.length + tasks.length > 0 && (
        <>
          <div className="mt-5 flex flex-wrap gap-3">
            {tasks.length > 0 && (
              <Labelled label={t`Kind`}>
                <select
                  className={fieldClass}
                  value={kind}
                  onChange={(event) => setKind(event.target.value)}
                >
                  <option value="">{t`all`}</option>
                  <option value="tests">{t`tests`}</option>
                  <option value="work">{t`practice and reading`}</option>
                </select>
              </Labelled>
            )}
            <Labelled label={t`Subject`}>
              <select
                className={fieldClass}
                value={subject}
                onChange={(event) => setSubject(event.target.value)}
              >
                <option value="">{t`all`}</option>
                {[...subjects].map(([key, title]) => (
                  <option key={key} value={key}>
                    {title}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled label={t`State`}>
              <select
                className={fieldClass}
                value={state}
                onChange={(event) => setState(event.target.value)}
              >
                <option value="">{t`all`}</option>
                {states.map((words) => (
                  <option key={words}>{words}</option>
                ))}
              </select>
            </Labelled>
          </div>
          <ul className="mt-4">
            {shownTasks.map((task) => (
              <TaskLine key={task.id} task={task} />
            ))}
            {shown.map((test) => (
              <TestLine key={test.ref} test={test} />
            ))}
          </ul>
          {shown.length + shownTasks.length === 0 && (
            <p className="mt-4 text-ink-2">{t`No tests match.`}</p>
          )}
        </>
      )}
    </main>
  )
}

function lead(tests: Line[], tasks: Task[], openTests: number, openTasks: number) {
  if (tests.length + tasks.length === 0) return t`You have no tests or tasks yet.`
  if (openTests + openTasks === 0) return t`Nothing to do here.`
  const parts = [
    openTests > 0 && counted(openTests, 'test'),
    openTasks > 0 && counted(openTasks, 'other task'),
  ].filter((part) => part !== false)
  const waits = openTests + openTasks === 1 ? 'waits' : 'wait'
  return t`${capital(parts.join(' and '))} ${waits} for you. Opening a test doesn’t start it.`
}

function TaskLine({ task }: { task: Task }) {
  const to = useTo()
  const late = task.state === 'late' || task.state === 'closed'
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_12rem_14rem_12rem]">
      <div>
        <TextLink to={to(`/work/${task.id}`)} className="text-lg font-semibold">
          {task.title}
        </TextLink>
        <p className="text-ink-2">{task.says}</p>
      </div>
      <p className={late ? 'text-wrong' : task.state === 'under_way' ? 'font-semibold' : ''}>
        {TASK_STATES[task.state]}
      </p>
      <p className="text-ink-2 tabular-nums">
        {task.due ? t`due ${moment(task.due)}` : t`no date`}
      </p>
      <p className="tabular-nums">{task.made}</p>
    </li>
  )
}

function TestLine({ test }: { test: Line }) {
  const to = useTo()
  const late = test.state === 'late' || test.state === 'closed'
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_12rem_14rem_12rem]">
      <div>
        <TextLink to={to(`/tests/${test.ref}`)} className="text-lg font-semibold">
          {test.title}
        </TextLink>
        <p className="text-ink-2">
          {capital(counted(test.questions, 'question'))}
          {test.minutes ? t`, ${test.minutes} min` : t`, no limit`},{' '}
          {test.subjects.map((one) => one.title).join(', ')}
        </p>
      </div>
      <p className={late ? 'text-wrong' : test.state === 'under_way' ? 'font-semibold' : ''}>
        {STATES[test.state]}
        {test.attempts > 1 && <span className="text-ink-2">{t`, ${test.attempts} attempts`}</span>}
      </p>
      <p className="text-ink-2 tabular-nums">
        {test.state === 'not_open' && test.opens
          ? t`opens ${moment(test.opens)}`
          : test.due
            ? t`due ${moment(test.due)}`
            : test.closes
              ? t`closes ${moment(test.closes)}`
              : t`no date`}
      </p>
      <p className="tabular-nums">{test.counts}</p>
    </li>
  )
}

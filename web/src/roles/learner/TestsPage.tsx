import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import { testsQuery } from '../../activities/exam/queries'
import type { Schemas } from '../../api/client'
import { fieldClass, Labelled } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, moment } from '../../ui/words'

type Line = Schemas['TestLineOut']

export const STATES: Record<Line['state'], string> = {
  not_open: 'not open yet',
  not_begun: 'not begun',
  late: 'late, not begun',
  under_way: 'under way',
  handed_in: 'handed in',
  waiting: 'waiting for marks',
  marked: 'marked',
  closed: 'closed, not begun',
}

/** Every test of the learner, with its state; narrowed by subject and state. */
export default function TestsPage() {
  const query = useQuery(testsQuery(useCourse()))
  useTitle('Tests')
  return (
    <Loaded query={query} what="your tests">
      {({ tests }) => <Tests tests={tests} />}
    </Loaded>
  )
}

function Tests({ tests }: { tests: Line[] }) {
  const [subject, setSubject] = useState('')
  const [state, setState] = useState('')
  const subjects = new Map(tests.flatMap((test) => test.subjects.map((s) => [s.key, s.title])))
  const states = [...new Set(tests.map((test) => test.state))]
  const shown = tests.filter(
    (test) =>
      (!subject || test.subjects.some((one) => one.key === subject)) &&
      (!state || test.state === state),
  )
  const open = tests.filter((test) => ['not_begun', 'late', 'under_way'].includes(test.state))
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">Tests</h1>
      <p className="mt-1.5 text-ink-2">
        {tests.length === 0
          ? 'You have been given no test yet.'
          : open.length === 0
            ? 'Nothing waits for you here.'
            : `${capital(counted(open.length, 'test'))} ${open.length === 1 ? 'waits' : 'wait'} for you. Looking at one never starts it.`}
      </p>
      {tests.length > 0 && (
        <>
          <div className="mt-5 flex flex-wrap gap-3">
            <Labelled label="Subject">
              <select
                className={fieldClass}
                value={subject}
                onChange={(event) => setSubject(event.target.value)}
              >
                <option value="">all</option>
                {[...subjects].map(([key, title]) => (
                  <option key={key} value={key}>
                    {title}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled label="State">
              <select
                className={fieldClass}
                value={state}
                onChange={(event) => setState(event.target.value)}
              >
                <option value="">all</option>
                {states.map((key) => (
                  <option key={key} value={key}>
                    {STATES[key]}
                  </option>
                ))}
              </select>
            </Labelled>
          </div>
          <ul className="mt-4">
            {shown.map((test) => (
              <TestLine key={test.ref} test={test} />
            ))}
          </ul>
          {shown.length === 0 && <p className="mt-4 text-ink-2">No test is like that.</p>}
        </>
      )}
    </main>
  )
}

function TestLine({ test }: { test: Line }) {
  const to = useTo()
  const late = test.state === 'late' || test.state === 'closed'
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_12rem_14rem_12rem]">
      <div>
        <Link
          to={to(`/tests/${test.ref}`)}
          className="text-lg font-semibold text-gust hover:underline"
        >
          {test.title}
        </Link>
        <p className="text-ink-2">
          {counted(test.questions, 'question')}
          {test.minutes ? `, ${test.minutes} min` : ', no limit'},{' '}
          {test.subjects.map((one) => one.title).join(', ')}
        </p>
      </div>
      <p className={late ? 'text-wrong' : test.state === 'under_way' ? 'font-semibold' : ''}>
        {STATES[test.state]}
        {test.attempts > 1 && <span className="text-ink-2">, {test.attempts} attempts</span>}
      </p>
      <p className="text-ink-2 tabular-nums">
        {test.state === 'not_open' && test.opens
          ? `opens ${moment(test.opens)}`
          : test.due
            ? `due ${moment(test.due)}`
            : test.closes
              ? `closes ${moment(test.closes)}`
              : 'no date'}
      </p>
      <p className="tabular-nums">{test.counts}</p>
    </li>
  )
}

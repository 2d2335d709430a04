import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { useBeginPractice } from '../../account/session'
import type { Schemas } from '../../api/client'
import { Button, buttonClass } from '../../ui/Button'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, moment } from '../../ui/words'
import { groupTestsQuery } from './queries'

type Line = Schemas['GroupTestOut']

/** Tests of a group: who has not begun, begun and left, handed in; and the way to a new one. */
export default function SetWorkPage() {
  const id = Number(useParams().group)
  const query = useQuery(groupTestsQuery(id))
  useTitle('Tests of the group')
  return (
    <Loaded query={query} what="the tests">
      {({ group, course, tests }) => {
        const open = tests.filter((test) => test.states.not_begun + test.states.left > 0)
        return (
          <main id="main" className="px-5 py-8 @5xl:px-8">
            <Link to={`/tutor/groups/${id}`} className="text-gust hover:underline">
              {group}
            </Link>
            <div className="mt-1 flex flex-wrap items-start justify-between gap-4">
              <div>
                <h1 className="text-3xl">Tests</h1>
                <p className="mt-1.5 text-ink-2">
                  {tests.length === 0
                    ? 'No test has been set yet.'
                    : open.length === 0
                      ? 'Everybody has handed in everything.'
                      : `${capital(counted(open.length, 'test'))} ${open.length === 1 ? 'has' : 'have'} learners who have not begun, or begun and left.`}
                </p>
              </div>
              <Link to={`/tutor/work/${id}/new`} className={buttonClass('strong')}>
                Set a test
              </Link>
            </div>
            <ul className="mt-5">
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

const STATES: [keyof Line['states'], string][] = [
  ['not_begun', 'not begun'],
  ['under_way', 'under way'],
  ['left', 'begun and left'],
  ['waiting', 'waiting for marks'],
  ['marked', 'marked'],
]

function TestLine({ group, course, test }: { group: number; course: string; test: Line }) {
  const practise = useBeginPractice()
  const dates = [
    test.opens && `opens ${moment(test.opens)}`,
    test.due && `due ${moment(test.due)}`,
    test.closes && `closes ${moment(test.closes)}`,
  ].filter(Boolean)
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_22rem_8rem]">
      <div>
        <h2 className="font-sans text-lg font-semibold">
          <Link to={`/tutor/work/${group}/${test.id}`} className="text-gust hover:underline">
            {test.title}
          </Link>
        </h2>
        <p className="text-ink-2">
          {counted(test.questions, 'question')}, {test.points} points
          {dates.length > 0 && `; ${dates.join(', ')}`}
        </p>
      </div>
      <p className="tabular-nums">
        {STATES.filter(([key]) => test.states[key] > 0)
          .map(([key, word]) => `${test.states[key]} ${word}`)
          .join(', ')}
      </p>
      <p className="text-ink-2 tabular-nums">{test.mean && `mean ${test.mean}`}</p>
      <p className="@3xl:col-span-3">
        <Button
          kind="quiet"
          className="-ml-2"
          aria-label={`See ${test.title} as the practice learner`}
          disabled={practise.isPending}
          onClick={() =>
            practise.mutate(course, {
              onSuccess: () => window.location.assign(`/courses/${course}/tests/given-${test.id}`),
            })
          }
        >
          See it as the practice learner
        </Button>
      </p>
    </li>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useCourse, useTo } from '../../../account/course'
import { testsQuery } from '../../../activities/exam/queries'
import { TextLink } from '../../../ui/TextLink'
import { counted, moment } from '../../../ui/words'
import { STATES } from '../tests/TestsPage'

/** Tests that were taken: attempts, the result that counts and why. */
export function RecordTests() {
  const to = useTo()
  const query = useQuery(testsQuery(useCourse()))
  const taken = query.data?.tests.filter((test) => test.attempts > 0) ?? []
  if (taken.length === 0) return null
  return (
    <section aria-labelledby="tests-taken" className="mt-8">
      <h2 id="tests-taken" className="text-xl">{t`Tests`}</h2>
      <ul className="mt-1">
        {taken.map((test) => (
          <li
            key={test.ref}
            className="grid gap-x-6 border-b border-line py-2 @3xl:grid-cols-[minmax(0,1fr)_10rem_12rem_16rem]"
          >
            <TextLink to={to(`/tests/${test.ref}`)} className="font-semibold">
              {test.title}
            </TextLink>
            <span className="text-ink-2">{counted(test.attempts, 'attempt')}</span>
            <span className="text-ink-2">
              {test.due ? t`due ${moment(test.due)}` : STATES[test.state]}
            </span>
            <span className="tabular-nums">{test.counts ?? STATES[test.state]}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

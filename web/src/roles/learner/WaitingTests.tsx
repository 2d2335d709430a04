import { Link } from 'react-router'
import { useTo } from '../../account/course'
import type { Schemas } from '../../api/client'
import { moment } from '../../ui/words'

/** Tests that wait: under way, late, or still to be begun. */
export function WaitingTests({ tests }: { tests: Schemas['WaitingTestOut'][] }) {
  const to = useTo()
  if (tests.length === 0) return null
  return (
    <section className="mt-8">
      <h2 className="text-lg">Tests</h2>
      <ul className="mt-1">
        {tests.map((test) => (
          <li key={test.ref} className="flex flex-wrap items-baseline gap-x-4 py-1.5">
            <Link to={to(`/tests/${test.ref}`)} className="font-semibold text-gust hover:underline">
              {test.title}
            </Link>
            <span className={test.state === 'late' ? 'text-wrong' : 'text-ink-2'}>
              {test.state === 'under_way' && 'under way, '}
              {test.state === 'late' && 'late, '}
              {test.due
                ? `due ${moment(test.due)}`
                : test.closes
                  ? `closes ${moment(test.closes)}`
                  : 'at any time'}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

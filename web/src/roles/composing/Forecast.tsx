import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { counted } from '../../ui/words'
import { groupsQuery } from '../tutor/queries'
import { Pick } from './Pick'
import { forecastQuery, type NewTest } from './queries'

interface Props {
  course: string
  /** The group it is composed for, where one was chosen before. */
  group: number | null
  test: NewTest
  /** Whether there are questions to foresee anything of. */
  ready: boolean
}

/** What a test would bring in a group of one's own: results, minutes, topics. */
export function Forecast({ course, group, test, ready }: Props) {
  const groups = useQuery(groupsQuery).data?.groups.filter((one) => one.course === course) ?? []
  const [chosen, setChosen] = useState(group)
  const id = chosen ?? groups[0]?.id ?? null
  const found = useQuery(forecastQuery(id ?? 0, test, ready && id !== null)).data
  if (id === null || !ready) return null
  return (
    <section aria-label={t`What to expect`} className="mt-6">
      <h2 className="text-xl">{t`What to expect`}</h2>
      {groups.length > 1 && (
        <Pick
          label={t`For`}
          options={groups.map((one) => [String(one.id), one.title])}
          value={String(id)}
          onChange={(next) => setChosen(Number(next))}
        />
      )}
      {found && (
        <div aria-live="polite">
          {found.mean === null ? (
            <p className="mt-1 text-ink-2">{t`Nothing is known of the group’s levels yet.`}</p>
          ) : (
            <Range low={found.low ?? 0} mean={found.mean} high={found.high ?? 100} />
          )}
          <ul className="mt-1.5 grid gap-1">
            {found.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
            {found.minutes > 0 && (
              <li>
                {t`About ${found.minutes} min for the learner in the middle, ${found.slowest} min for the slowest.`}
              </li>
            )}
            {found.time_says && <li>{found.time_says}</li>}
          </ul>
          <p className="mt-1.5">{t`It asks about ${found.covered.join(', ')}.`}</p>
          {found.others.length > 0 && (
            <details className="mt-1">
              <summary className="cursor-pointer text-gust">
                {t`Not about ${counted(found.others.length, 'topic')} that you’ve taught`}
              </summary>
              <p className="text-ink-2">{found.others.join(', ')}</p>
            </details>
          )}
          <p className="mt-1 text-ink-2 text-sm">{t`From the levels of ${counted(found.learners, 'learner')} in ${groups.find((one) => one.id === id)?.title ?? ''}.`}</p>
        </div>
      )}
    </section>
  )
}

/** Where results would lie on a line from 0 to 100. */
function Range({ low, mean, high }: { low: number; mean: number; high: number }) {
  return (
    <svg aria-hidden="true" className="mt-2 block w-full overflow-visible" height="22">
      <line x1="0" x2="100%" y1="11" y2="11" stroke="var(--v-edge)" strokeWidth="1.5" />
      <rect
        y="5"
        height="12"
        rx="6"
        fill="var(--v-gust-mid)"
        stroke="var(--v-bar-edge)"
        style={{ x: `${low}%`, width: `${Math.max(1, high - low)}%` }}
      />
      <rect y="1" width="3" height="20" rx="1.5" fill="var(--v-ink)" style={{ x: `${mean}%` }} />
    </svg>
  )
}

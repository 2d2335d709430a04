import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import { useTo } from '../account/course'
import type { Run } from '../api/client'
import { buttonClass } from '../ui/Button'
import { DriftBar } from '../ui/DriftBar'
import { ACTIVITIES } from './descriptors'

/** The end of a run: where it leaves the learner. */
export function Finished({ run }: { run: Run }) {
  const activity = ACTIVITIES[run.purpose]
  const to = useTo()
  return (
    <main id="main" className="mx-auto w-full max-w-3xl px-6 py-10">
      <h2 className="text-3xl">{activity.headline(run)}</h2>
      <p className="mt-2 text-ink-2">{t`${run.title}. Everything is saved. See it under Topics.`}</p>
      <ul className="mt-6 grid gap-4">
        {run.topics.map((topic) => (
          <li
            key={topic.key}
            className="grid items-center gap-x-5 gap-y-1 @2xl:grid-cols-[14rem_1fr_3rem_9rem]"
          >
            <Link
              to={to(`/topics/${topic.key}`)}
              className="font-semibold underline-offset-4 hover:underline"
            >
              {topic.title}
            </Link>
            <DriftBar name={topic.title} reading={topic.reading} met={topic.reading.at_target} />
            <span className="font-heading text-lg font-semibold tabular-nums">
              {topic.reading.level ?? '?'}
            </span>
            <span className="text-sm text-ink-2">{activity.ending(topic)}</span>
          </li>
        ))}
      </ul>
      <p className="mt-8 flex flex-wrap gap-3">
        {run.spell !== null && (
          <Link
            to={to(`/spell/${run.spell}`)}
            className={buttonClass('strong')}
          >{t`Next task`}</Link>
        )}
        <Link
          to={to('/')}
          className={buttonClass(run.spell === null ? 'strong' : 'plain')}
        >{t`See what comes next`}</Link>
        <Link to={to('/review')} className={buttonClass('plain')}>{t`Review your mistakes`}</Link>
      </p>
    </main>
  )
}

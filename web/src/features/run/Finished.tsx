import { Link } from 'react-router'
import type { Run } from '../../api/client'
import { buttonClass } from '../../ui/Button'
import { DriftBar } from '../../ui/DriftBar'
import { capital, counted } from '../../ui/words'

const STATUS = {
  open: 'still open',
  settled: 'settled',
  exhausted: 'as far as these questions go',
} as const

/** The end of a run: where it leaves the learner. */
export function Finished({ run }: { run: Run }) {
  const settled = run.topics.filter((topic) => topic.status !== 'open').length
  const headline =
    run.purpose === 'diagnostic'
      ? `${capital(counted(settled, 'topic'))} settled, after ${counted(run.answered, 'question')}`
      : `${capital(counted(run.answered, 'question'))} practised`
  return (
    <main id="main" className="mx-auto w-full max-w-3xl px-6 py-10">
      <h2 className="text-3xl">{headline}</h2>
      <p className="mt-2 text-ink-2">{run.title}. Everything is kept, and it shows on Topics.</p>
      <ul className="mt-6 grid gap-4">
        {run.topics.map((topic) => (
          <li
            key={topic.key}
            className="grid items-center gap-x-5 gap-y-1 @2xl:grid-cols-[14rem_1fr_3rem_9rem]"
          >
            <Link
              to={`/topics/${topic.key}`}
              className="font-semibold underline-offset-4 hover:underline"
            >
              {topic.title}
            </Link>
            <DriftBar
              name={topic.title}
              reading={topic.reading}
              met={topic.reading.chance >= 0.8}
            />
            <span className="font-heading text-lg font-semibold tabular-nums">
              {topic.reading.level ?? '?'}
            </span>
            <span className="text-sm text-ink-2">
              {run.purpose === 'diagnostic'
                ? STATUS[topic.status]
                : `target ${topic.reading.target}`}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-8 flex flex-wrap gap-3">
        <Link to="/" className={buttonClass('strong')}>
          See what comes next
        </Link>
        <Link to="/review" className={buttonClass('plain')}>
          Review what was missed
        </Link>
      </p>
    </main>
  )
}

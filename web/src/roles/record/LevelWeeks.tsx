import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { DriftAxis } from '../../ui/DriftAxis'
import { DriftBar } from '../../ui/DriftBar'
import { day } from '../../ui/words'

/** Levels over the weeks: a topic's drift bars one below the other, with what happened when. */
export function LevelWeeks({ topics }: { topics: Schemas['TopicWeeksOut'][] }) {
  const moved = topics.filter((topic) => topic.weeks.length > 0)
  if (moved.length === 0) return null
  return (
    <section className="mt-9">
      <h2 className="text-xl">{t`Levels week by week`}</h2>
      <p className="text-ink-2">{t`Your level now, and inside at the end of each week in which it changed. Open a topic to see them.`}</p>
      <ul className="mt-2">
        {moved.map((topic) => (
          <li key={topic.topic.key} className="border-b border-line">
            <Topic topic={topic} />
          </li>
        ))}
      </ul>
    </section>
  )
}

const GRID = 'grid grid-cols-[5rem_minmax(0,1fr)_2.500rem] items-center gap-x-4'

function Topic({ topic }: { topic: Schemas['TopicWeeksOut'] }) {
  const met = topic.events.some((event) => event.kind === 'met')
  return (
    <details>
      <summary className="grid cursor-pointer grid-cols-[minmax(9rem,15rem)_minmax(0,1fr)_2.500rem] items-center gap-x-5 py-1.5">
        <span className="font-semibold">
          {topic.topic.title}
          <span className="block text-sm font-normal text-ink-2">
            {topic.events.map((event) => `${event.says}, ${day(event.on)}`).join('; ')}
          </span>
        </span>
        <DriftBar
          name={topic.topic.title}
          reading={topic.reading}
          past={topic.weeks.map((week) => week.reading.middle)}
          met={met && topic.reading.at_target}
        />
        <span className="text-right font-heading font-semibold tabular-nums">
          {topic.reading.level ?? '?'}
        </span>
      </summary>
      <div className="pb-3 pl-4">
        <div className={`${GRID} text-sm text-ink-2`}>
          <span>{t`week of`}</span>
          <DriftAxis />
          <span />
        </div>
        {topic.weeks.map((week) => (
          <div key={week.on} className={GRID}>
            <span className="text-sm text-ink-2">{day(week.on)}</span>
            <DriftBar
              name={t`${topic.topic.title}, week of ${day(week.on)}`}
              reading={week.reading}
              met={week.reading.at_target}
            />
            <span className="text-right font-heading font-semibold tabular-nums">
              {week.reading.level ?? '?'}
            </span>
          </div>
        ))}
      </div>
    </details>
  )
}

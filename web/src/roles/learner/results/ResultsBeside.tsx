import { t } from '@lingui/core/macro'
import { useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { DriftBar } from '../../../ui/DriftBar'
import { TextLink } from '../../../ui/TextLink'
import { capital, counted } from '../../../ui/words'

type Group = NonNullable<Schemas['ResultsOut']['group']>

const WIDTH = 640
const LEFT = 20
const DOT = 5.5
const STACK = 13

const at = (perCent: number) => LEFT + (Math.max(0, perCent) / 100) * (WIDTH - 2 * LEFT)

/** Everybody's result as a dot, one's own marked; nobody is named. */
export function GroupStrip({ group }: { group: Group }) {
  const count = group.per_cent.length
  const own = group.per_cent[group.own] ?? 0
  const under: number[] = []
  const dots = group.per_cent.map((value, index) => {
    const level = under[Math.max(0, value)] ?? 0
    under[Math.max(0, value)] = level + 1
    return { value, level, mine: index === group.own }
  })
  const height = 34 + STACK * Math.max(...dots.map((dot) => dot.level + 1))
  const base = height - 24
  const words = t`${capital(counted(count, 'learner'))} took it. Their results go from ${group.per_cent[0] ?? 0}% to ${group.per_cent[count - 1] ?? 0}%, and half of them got ${group.middle}% or more. You got ${own}%.`
  return (
    <section aria-labelledby="beside" className="mt-7 max-w-2xl">
      <h2 id="beside" className="text-xl">{t`Compared with the group`}</h2>
      <p className="mt-1 text-ink-2">{words}</p>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} className="mt-2 w-full" aria-hidden="true">
        <line x1={LEFT} x2={WIDTH - LEFT} y1={base} y2={base} className="stroke-edge" />
        {[0, 25, 50, 75, 100].map((mark) => (
          <text
            key={mark}
            x={at(mark)}
            y={height - 6}
            textAnchor="middle"
            className="fill-ink-2 text-xs"
          >
            {mark}
          </text>
        ))}
        <line
          x1={at(group.middle)}
          x2={at(group.middle)}
          y1={4}
          y2={base}
          className="stroke-edge"
          strokeDasharray="3 3"
        />
        {dots.map((dot) => (
          <circle
            key={`${dot.value}:${dot.level}`}
            cx={at(dot.value)}
            cy={base - 8 - STACK * dot.level}
            r={dot.mine ? DOT + 1.5 : DOT}
            className={dot.mine ? 'fill-sun stroke-ink' : 'fill-gust-mid'}
            strokeWidth={1.5}
          />
        ))}
      </svg>
    </section>
  )
}

/** Levels of the topics before the attempt was marked, and after. */
export function LevelSteps({ steps }: { steps: Schemas['LevelStepOut'][] }) {
  const to = useTo()
  return (
    <section aria-labelledby="levels" className="mt-7 max-w-2xl">
      <h2 id="levels" className="text-xl">{t`How it changed your levels`}</h2>
      <ul className="mt-1">
        {steps.map(({ topic, before, after }) => (
          <li key={topic.key} className="border-b border-line py-2">
            <p className="flex flex-wrap justify-between gap-x-4">
              <TextLink to={to(`/topics/${topic.key}`)}>{topic.title}</TextLink>
              <span className="text-ink-2 tabular-nums">{t`${before.level ?? 0} before, ${after.level ?? 0} after`}</span>
            </p>
            <DriftBar
              name={topic.title}
              reading={after}
              past={[before.middle]}
              met={after.at_target}
            />
          </li>
        ))}
      </ul>
    </section>
  )
}

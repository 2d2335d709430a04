import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import type { Schemas } from '../../../api/client'
import { Loaded } from '../../../ui/states'
import { curvesQuery } from './queries'

const [WIDTH, HEIGHT, LEFT, DOWN] = [460, 220, 40, 30]
const x = (at: number) => LEFT + ((WIDTH - LEFT - 10) * at) / 100
const y = (share: number) => 10 + (HEIGHT - DOWN - 10) * (1 - share)

type Shown = Schemas['CalibratedCurvesOut']

/** A question’s curves over the level in its topic, and what was observed as dots, larger for more
 * answers. */
export function Curves({ course, family }: { course: string; family: string }) {
  const query = useQuery(curvesQuery(course, family))
  return (
    <Loaded query={query} what={t`the curve`}>
      {(shown) => <Drawing shown={shown} />}
    </Loaded>
  )
}

function line(points: [number, number][]): string {
  return points.map(([at, share], n) => `${n ? 'L' : 'M'}${x(at)} ${y(share)}`).join('')
}

function Drawing({ shown: { curves, observed } }: { shown: Shown }) {
  const proposed = curves.flatMap(({ at, proposed: share }): [number, number][] =>
    share === null ? [] : [[at, share]],
  )
  const dots = observed.map(
    ({ at, share, answers }) =>
      t`at level ${Math.round(at)}: ${Math.round(100 * share)}% of ${answers} answers`,
  )
  return (
    <figure className="mt-3 max-w-xl">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={
          dots.length > 0
            ? t`Share that is right: ${dots.join(', ')}`
            : t`Share that is expected to be right. Too few answers to draw any.`
        }
        className="w-full text-[13px]"
      >
        {[0, 0.5, 1].map((share) => (
          <g key={share}>
            <path d={`M${LEFT} ${y(share)}H${WIDTH - 10}`} stroke="var(--color-line)" />
            <text x={LEFT - 6} y={y(share) + 4} textAnchor="end" fill="var(--color-ink-2)">
              {100 * share}%
            </text>
          </g>
        ))}
        {[0, 25, 50, 75, 100].map((at) => (
          <text key={at} x={x(at)} y={HEIGHT - 10} textAnchor="middle" fill="var(--color-ink-2)">
            {at}
          </text>
        ))}
        <path
          d={line(curves.map(({ at, present }) => [at, present]))}
          fill="none"
          stroke="var(--color-edge)"
          strokeWidth="2"
          strokeDasharray="6 5"
        />
        {proposed.length > 0 && (
          <path d={line(proposed)} fill="none" stroke="var(--color-gust)" strokeWidth="2.5" />
        )}
        {observed.map(({ at, share, answers }) => (
          <circle
            key={at}
            cx={x(at)}
            cy={y(share)}
            r={2 + Math.sqrt(answers)}
            fill="var(--color-gust)"
            fillOpacity="0.35"
            stroke="var(--color-gust)"
          />
        ))}
      </svg>
      <figcaption className="text-sm text-ink-2">
        {t`Across: level in the topic. Up: share that is right. Dashed: now. Line: from answers. Dots: observed.`}
      </figcaption>
    </figure>
  )
}

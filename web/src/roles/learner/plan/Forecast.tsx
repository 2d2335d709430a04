import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import { day } from '../../../ui/words'

const WIDTH = 720
const HEIGHT = 220
const LEFT = 34

/** Topics at the target from today to the date: as expected, and a band for four of five. */
export function Forecast({ curve, topics }: { curve: Schemas['PlanPointOut'][]; topics: number }) {
  const last = curve.at(-1)
  if (!last || curve.length < 2) return null
  const x = (i: number) => LEFT + ((WIDTH - LEFT - 8) * i) / (curve.length - 1)
  const y = (count: number) => HEIGHT - 22 - ((HEIGHT - 40) * count) / Math.max(1, topics)
  const line = (of: 'mean' | 'low' | 'high') => curve.map((point, i) => `${x(i)},${y(point[of])}`)
  const marks = [0, Math.round(topics / 2), topics]
  const middle = curve[Math.floor(curve.length / 2)]
  const words =
    t`By ${day(last.on)} about ${Math.round(last.mean)} of ${topics} topics at the target, ` +
    t`usually between ${Math.round(last.low)} and ${Math.round(last.high)}.`
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={words} className="mt-4 w-full">
      {marks.map((mark) => (
        <g key={mark}>
          <line x1={LEFT} x2={WIDTH - 8} y1={y(mark)} y2={y(mark)} stroke="var(--v-line)" />
          <text x={LEFT - 8} y={y(mark) + 5} textAnchor="end" fontSize="14" fill="var(--v-ink-3)">
            {mark}
          </text>
        </g>
      ))}
      <polygon
        points={[...line('low'), ...line('high').reverse()].join(' ')}
        fill="var(--v-gust-soft)"
      />
      <polyline
        points={line('mean').join(' ')}
        fill="none"
        stroke="var(--v-gust)"
        strokeWidth="3"
      />
      <line
        x1={x(curve.length - 1)}
        x2={x(curve.length - 1)}
        y1="14"
        y2={y(0)}
        stroke="var(--v-sun)"
        strokeWidth="4"
      />
      <text x={LEFT} y={HEIGHT - 4} fontSize="14" fill="var(--v-ink-3)">{t`today`}</text>
      {middle && (
        <text
          x={x(Math.floor(curve.length / 2))}
          y={HEIGHT - 4}
          textAnchor="middle"
          fontSize="14"
          fill="var(--v-ink-3)"
        >
          {day(middle.on)}
        </text>
      )}
      <text x={WIDTH - 8} y={HEIGHT - 4} textAnchor="end" fontSize="14" fill="var(--v-ink-3)">
        {day(last.on)}
      </text>
    </svg>
  )
}

import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { day } from '../../ui/words'

const HEIGHT = 190

/** A topic's level over time: drift bars standing side by side, the post as a line across. */
export function History({
  points,
  target,
}: {
  points: Schemas['LevelPointOut'][]
  target: number
}) {
  const shown = thin(points, 14)
  const y = (level: number) => ((100 - level) / 100) * HEIGHT
  const labelled = daysToName(shown.map(({ at }) => day(at)))
  const label = shown
    .map(
      ({ at, reading, recalibrated }) =>
        `${day(at)}: ${reading.level ?? t`${Math.round(reading.low)} to ${Math.round(reading.high)}`}${
          recalibrated ? t`, recalculated` : ''
        }`,
    )
    .join('; ')
  return (
    <svg
      className="block w-full"
      height={HEIGHT + 40}
      role="img"
      aria-label={t`Level over time. ${label}`}
    >
      {[0, 25, 50, 75, 100].map((mark) => (
        <g key={mark}>
          <line x1="34" x2="100%" y1={y(mark) + 6} y2={y(mark) + 6} stroke="var(--v-line)" />
          <text x="28" y={y(mark) + 11} textAnchor="end" fontSize="13" fill="var(--v-ink-3)">
            {mark}
          </text>
        </g>
      ))}
      <line
        x1="34"
        x2="100%"
        y1={y(target) + 6}
        y2={y(target) + 6}
        stroke="var(--v-ink)"
        strokeWidth="4.500"
      />
      <line
        x1="34"
        x2="100%"
        y1={y(target) + 6}
        y2={y(target) + 6}
        stroke="var(--v-sun)"
        strokeWidth="3"
      />
      {shown.map(({ at, reading }, i) => {
        const x = `${6 + (91 * (i + 0.5)) / shown.length}%`
        const known = reading.level !== null
        const named = labelled.has(i)
        return (
          <g key={at + String(i)}>
            <rect
              x={x}
              y={y(reading.high) + 6}
              width="18"
              height={Math.max(4, y(reading.low) - y(reading.high))}
              rx="9"
              transform="translate(-9 0)"
              fill={known ? 'var(--v-gust-mid)' : 'var(--v-pale)'}
              stroke={known ? 'var(--v-bar-edge)' : 'var(--v-pale-edge)'}
              strokeDasharray={known ? undefined : '3 3'}
            />
            {known && (
              <rect
                x={x}
                y={y(reading.middle) + 4.5}
                width="26"
                height="3"
                rx="1.500"
                transform="translate(-13 0)"
                fill="var(--v-ink)"
              />
            )}
            {named && (
              <text x={x} y={HEIGHT + 32} textAnchor="middle" fontSize="13" fill="var(--v-ink-2)">
                {day(at)}
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}

/** At most `most` points, the first and the last among them. */
function thin<T>(points: T[], most: number): T[] {
  if (points.length <= most) return points
  const step = (points.length - 1) / (most - 1)
  return Array.from({ length: most }, (_, i) => points[Math.round(i * step)] as T)
}

/** Where a new day begins, left out where the names would run into each other. */
function daysToName(days: string[]): Set<number> {
  const named = new Set<number>()
  let last = -2
  days.forEach((name, i) => {
    if (i - last < 2 || (i > 0 && name === days[last])) return
    named.add(i)
    last = i
  })
  return named
}

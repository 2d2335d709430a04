import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { counted, day } from '../../ui/words'

const HEIGHT = 130

/** Time spent, week by week. */
export function Weeks({ weeks, minutes }: { weeks: Schemas['WeekOut'][]; minutes: number }) {
  const most = Math.max(30, ...weeks.map((week) => week.minutes))
  const words = weeks
    .filter((week) => week.minutes > 0)
    .map((week) => t`week of ${day(week.on)}: ${week.minutes} min, ${week.answers} questions`)
    .join('; ')
  return (
    <section>
      <h2 className="text-xl">{t`Time spent`}</h2>
      <p className="text-ink-2">
        {Math.floor(minutes / 60) > 0 && `${Math.floor(minutes / 60)} h `}
        {t`${minutes % 60} min in all. Each bar shows the minutes of a week.`}
      </p>
      <svg
        role="img"
        aria-label={words || t`No work in these weeks`}
        className="mt-2 block w-full"
        height={HEIGHT + 26}
      >
        <line x1="0" x2="100%" y1={HEIGHT} y2={HEIGHT} stroke="var(--v-edge)" />
        {weeks.map((week, i) => {
          const tall = (week.minutes / most) * (HEIGHT - 22)
          const x = `${(100 * i) / weeks.length}%`
          const middle = `${(100 * (i + 0.5)) / weeks.length}%`
          return (
            <g key={week.on}>
              <rect
                x={x}
                width={`${82 / weeks.length}%`}
                y={HEIGHT - tall}
                height={tall}
                rx="3"
                fill="var(--v-gust-mid)"
                stroke="var(--v-bar-edge)"
                transform="translate(3 0)"
              />
              {week.minutes > 0 && (
                <text
                  x={middle}
                  y={HEIGHT - tall - 5}
                  textAnchor="middle"
                  fontSize="13"
                  fill="var(--v-ink-2)"
                >
                  {week.minutes}
                </text>
              )}
              {i % 3 === 0 && (
                <text
                  x={i === 0 ? 0 : middle}
                  y={HEIGHT + 18}
                  textAnchor={i === 0 ? 'start' : 'middle'}
                  fontSize="13"
                  fill="var(--v-ink-3)"
                >
                  {day(week.on)}
                </text>
              )}
            </g>
          )
        })}
      </svg>
      <p className="sr-only">{t`Showing ${counted(weeks.length, 'week')}.`}</p>
    </section>
  )
}

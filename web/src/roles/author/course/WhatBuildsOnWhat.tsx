import { t } from '@lingui/core/macro'
import type { Topic } from './queries'

const ROW = 28
const LEFT = 92
const WIDTH = 320

/** Topics below each other, an arc from each to those that build on it. The form beside it says
 * the same in words. */
export function WhatBuildsOnWhat({ topics }: { topics: Topic[] }) {
  const known = topics.filter(({ key }) => key)
  const row = new Map(known.map(({ key }, place) => [key, place]))
  const arcs = known.flatMap(({ key, after }) =>
    after.flatMap((one) => {
      const [from, to] = [row.get(one), row.get(key)]
      return from === undefined || to === undefined ? [] : [{ from, to }]
    }),
  )
  if (arcs.length === 0) return null
  const longest = Math.max(...arcs.map(({ from, to }) => Math.abs(to - from)))
  const built = new Set(arcs.map(({ to }) => to))
  return (
    <figure className="rounded-box bg-sheet p-4">
      <figcaption className="text-lg font-semibold">{t`What builds on what`}</figcaption>
      <svg
        aria-hidden="true"
        viewBox={`0 0 ${WIDTH} ${known.length * ROW}`}
        className="mt-2 w-full max-w-sm text-[13.5px]"
      >
        {arcs.map(({ from, to }) => {
          const out = 14 + (LEFT - 28) * Math.sqrt(Math.abs(to - from) / longest)
          const [y1, y2] = [(from + 0.5) * ROW, (to + 0.5) * ROW]
          return (
            <path
              key={`${from} ${to}`}
              d={`M${LEFT} ${y1}C${LEFT - out} ${y1} ${LEFT - out} ${y2} ${LEFT} ${y2}`}
              fill="none"
              stroke="var(--color-gust)"
              strokeWidth="1.5"
            />
          )
        })}
        {known.map(({ key, title }, place) => (
          <g key={key}>
            <circle
              cx={LEFT}
              cy={(place + 0.5) * ROW}
              r={4}
              fill={built.has(place) ? 'var(--color-gust)' : 'var(--color-sheet)'}
              stroke="var(--color-gust)"
              strokeWidth="1.5"
            />
            <text x={LEFT + 12} y={(place + 0.5) * ROW + 5} fill="var(--color-ink)">
              {title.length > 30 ? `${title.slice(0, 29)}…` : title}
            </text>
          </g>
        ))}
      </svg>
    </figure>
  )
}

import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import type { Point } from '../../values'
import { heightAt, traced } from './curves'
import type { Scale } from './Grid'

interface Props {
  part: Schemas['PointsPartOut']
  points: Point[]
  scale: Scale
}

/** A line or curve through its points, with a thread to each height that is read off. */
export function Curve({ part, points, scale }: Props) {
  const inside = traced(part.draws, points, part.x.low, part.x.high).filter(
    (p) => p.y >= part.y.low - 1e-9 && p.y <= part.y.high + 1e-9,
  )
  return (
    <g fill="none">
      <polyline
        points={inside.map((p) => `${scale.x(p.x)},${scale.y(p.y)}`).join(' ')}
        stroke="var(--v-gust)"
        strokeWidth="3"
      />
      {part.heights.map(({ at }) => {
        const height = heightAt(part.draws, points, at)
        if (height === null || height < part.y.low || height > part.y.high) return null
        const [x, y] = [scale.x(at), scale.y(height)]
        return (
          <g key={at} stroke="var(--v-ink)" strokeWidth="1.5">
            <path
              d={`M${x} ${scale.y(part.y.low)} V${y} H${scale.x(part.x.low)}`}
              strokeDasharray="5 4"
            />
            <circle cx={x} cy={y} r="4.5" fill="var(--v-sheet)" />
          </g>
        )
      })}
    </g>
  )
}

/** The heights in words, read again as the curve moves. */
export function Heights({ part, points }: Omit<Props, 'scale'>) {
  if (part.heights.length === 0) return null
  return (
    <dl
      className="grid grid-cols-[1fr_auto] gap-x-4 gap-y-1 border-t border-line pt-3"
      aria-live="polite"
    >
      {part.heights.map(({ at, name, unit, digits }) => {
        const height = heightAt(part.draws, points, at)
        return (
          <div key={at} className="contents">
            <dt className="text-ink-2">{name}</dt>
            <dd className="font-heading text-lg font-semibold tabular-nums">
              {height === null ? t`not read yet` : `${height.toFixed(digits)} ${unit}`}
            </dd>
          </div>
        )
      })}
    </dl>
  )
}

import { t } from '@lingui/core/macro'
import { type PointerEvent, useRef, useState } from 'react'
import { Figure } from '../../Figure'
import type { Point } from '../../values'
import type { PartOf } from '../view'
import { Curve } from './Curve'
import { axisText, traced } from './curves'
import { Arrow, Grid, type Scale, useScale } from './Grid'

export type PointKind = 'select_point' | 'position_object' | 'graph'

interface Props {
  part: PartOf<PointKind>
  points: Point[]
  closed?: boolean
  /** Where the points belong, once that may be told. */
  rightPoints?: Point[]
  name: (i: number) => string
  onPut: (i: number, point: Point) => void
}

/** The grid with its points: pressed, dragged, or moved with the arrow keys. */
export default function Board({ part, points, closed, rightPoints = [], name, onPut }: Props) {
  const arrows = part.kind === 'graph' && part.draws === 'arrows'
  const curved = part.kind === 'graph' && !arrows
  const scale = useScale(part)
  const svg = useRef<SVGSVGElement>(null)
  const [dragged, setDragged] = useState<number | null>(null)

  const snap = ({ x, y }: Point): Point => ({
    x: clampStep(x, part.x.low, part.x.high, part.x.step),
    y: clampStep(y, part.y.low, part.y.high, part.y.step),
  })
  const at = (event: PointerEvent): Point => {
    const box = svg.current?.getBoundingClientRect()
    if (!box) return { x: 0, y: 0 }
    return snap(
      scale.back((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height),
    )
  }
  const press = (event: PointerEvent) => {
    if (closed) return
    const point = at(event)
    const near = points.findIndex(
      (p) => Math.hypot(scale.x(p.x) - scale.x(point.x), scale.y(p.y) - scale.y(point.y)) < 22,
    )
    const i = near >= 0 ? near : points.length < part.count ? points.length : part.count - 1
    svg.current?.setPointerCapture(event.pointerId)
    setDragged(i)
    onPut(i, point)
  }
  const onKey = (i: number) => (event: React.KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
    }
    const step = steps[event.key]
    const point = points[i]
    if (!step || !point) return
    event.preventDefault()
    const times = event.shiftKey ? 5 : 1
    onPut(
      i,
      snap({
        x: point.x + times * step[0] * part.x.step,
        y: point.y + times * step[1] * part.y.step,
      }),
    )
  }
  const before = (i: number): Point => points[i - 1] ?? part.start
  return (
    <div className="relative rounded-box bg-sheet">
      {part.figure && <Figure figure={part.figure} className="absolute inset-0" />}
      <svg
        ref={svg}
        viewBox={`0 0 ${scale.width} ${scale.height}`}
        className="relative block w-full touch-none select-none rounded-box"
        role="application"
        aria-label={part.label || t`Grid`}
        onPointerDown={press}
        onPointerMove={(event) => dragged !== null && onPut(dragged, at(event))}
        onPointerUp={() => setDragged(null)}
      >
        <Grid part={part} scale={scale} />
        {rightPoints.length > 0 && <RightPoints part={part} points={rightPoints} scale={scale} />}
        {curved && <Curve part={part} points={points} scale={scale} />}
        {arrows && (
          <g fill="var(--v-ink)" fontSize="13">
            <circle cx={scale.x(part.start.x)} cy={scale.y(part.start.y)} r="5" />
            <text x={scale.x(part.start.x) + 9} y={scale.y(part.start.y) + 17}>{t`start`}</text>
          </g>
        )}
        {arrows &&
          points.map((point, i) => (
            <Arrow key={`${name(i)}-line`} from={before(i)} to={point} scale={scale} />
          ))}
        {points.map((point, i) => (
          <g
            key={name(i)}
            tabIndex={closed ? undefined : 0}
            role="slider"
            aria-label={name(i)}
            aria-valuenow={point.x}
            aria-valuetext={`${axisText(part.x, point.x)}, ${axisText(part.y, point.y)}`}
            onKeyDown={onKey(i)}
            className="cursor-move"
          >
            <circle
              cx={scale.x(point.x)}
              cy={scale.y(point.y)}
              r="9"
              fill="var(--v-gust)"
              stroke="var(--v-sheet)"
              strokeWidth="2"
            />
            <text
              x={scale.x(point.x) + 13}
              y={scale.y(point.y) - 9}
              fontSize="14"
              fill="var(--v-ink)"
              stroke="var(--v-sheet)"
              strokeWidth="4"
              paintOrder="stroke"
            >
              {part.object || i + 1}
            </text>
          </g>
        ))}
      </svg>
    </div>
  )
}

/** Where the points belong, once that may be told: rings, and what a graph draws through them. */
function RightPoints({
  part,
  points,
  scale,
}: {
  part: PartOf<PointKind>
  points: Point[]
  scale: Scale
}) {
  const joined =
    part.kind !== 'graph'
      ? []
      : part.draws === 'arrows'
        ? [part.start, ...points]
        : traced(part.draws, points, part.x.low, part.x.high)
  return (
    <g fill="none" stroke="var(--v-right)" strokeWidth="2.5">
      <polyline
        points={joined.map((p) => `${scale.x(p.x)},${scale.y(p.y)}`).join(' ')}
        strokeDasharray="8 5"
      />
      {points.map((p) => (
        <circle key={`${p.x} ${p.y}`} cx={scale.x(p.x)} cy={scale.y(p.y)} r="13" />
      ))}
    </g>
  )
}

function clampStep(n: number, low: number, high: number, step: number): number {
  const snapped = low + Math.round((n - low) / step) * step
  return Math.min(high, Math.max(low, Math.round(snapped * 1e6) / 1e6))
}

import { type PointerEvent, useRef, useState } from 'react'
import type { Schemas } from '../../api/client'
import { Figure } from '../Figure'
import { fromPoints, type Point, pointsOf } from '../values'
import { PartGroup } from './Field'
import { Arrow, Grid, useScale } from './Grid'
import type { PartProps } from './types'

type Kind = 'select_point' | 'position_object' | 'graph'
type PointsPartOut = Schemas['PointsPartOut']

/** Length and direction of an arrow, north up: 4.2 M, 083°. */
export function readingOf(from: Point, to: Point, unit: string): string {
  const east = to.x - from.x
  const north = to.y - from.y
  const direction = (Math.round((Math.atan2(east, north) * 180) / Math.PI) + 360) % 360
  return `${Math.hypot(east, north).toFixed(1)} ${unit}, ${String(direction).padStart(3, '0')}°`
}

/**
 * QTI select point, position object and graph interactions: points on a grid, by pressing, by
 * dragging, with the arrow keys, or by their numbers in the list beside it.
 */
export default function PointsPart({ part, state, value, onChange }: PartProps<Kind>) {
  const closed = state.state !== 'open'
  const points = pointsOf(value)
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
  const put = (i: number, point: Point) => {
    const next = [...points]
    next[i] = point
    onChange(fromPoints(next))
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
    put(i, point)
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
    put(
      i,
      snap({
        x: point.x + times * step[0] * part.x.step,
        y: point.y + times * step[1] * part.y.step,
      }),
    )
  }
  const name = (i: number) =>
    part.names[i] || `${part.kind === 'graph' ? 'Arrow' : 'Point'} ${i + 1}`
  const before = (i: number): Point => points[i - 1] ?? part.start
  return (
    <PartGroup
      label={part.label}
      state={state}
      note={closed ? null : `${points.length} of ${part.count} placed`}
    >
      <div className="grid gap-5 @4xl:grid-cols-[minmax(0,28rem)_minmax(0,1fr)]">
        <div className="relative">
          {part.figure && <Figure figure={part.figure} className="absolute inset-0" />}
          <svg
            ref={svg}
            viewBox={`0 0 ${scale.width} ${scale.height}`}
            className={`relative block w-full touch-none rounded-box ${part.figure ? '' : 'bg-sheet'}`}
            role="application"
            aria-label={part.label || 'Grid'}
            onPointerDown={press}
            onPointerMove={(event) => dragged !== null && put(dragged, at(event))}
            onPointerUp={() => setDragged(null)}
          >
            <Grid part={part} scale={scale} />
            {part.kind === 'graph' && (
              <g fill="var(--v-ink)" fontSize="13">
                <circle cx={scale.x(part.start.x)} cy={scale.y(part.start.y)} r="5" />
                <text x={scale.x(part.start.x) + 9} y={scale.y(part.start.y) + 17}>
                  start
                </text>
              </g>
            )}
            {part.kind === 'graph' &&
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
                aria-valuetext={`${point.x}, ${point.y}`}
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
        <PointList
          part={part}
          points={points}
          closed={closed}
          name={name}
          before={before}
          onPut={put}
          onDrop={(i) => onChange(fromPoints(points.filter((_, j) => j !== i)))}
        />
      </div>
    </PartGroup>
  )
}

function clampStep(n: number, low: number, high: number, step: number): number {
  const snapped = low + Math.round((n - low) / step) * step
  return Math.min(high, Math.max(low, Math.round(snapped * 1e6) / 1e6))
}

/** The same points as numbers. */
function PointList({
  part,
  points,
  closed,
  name,
  before,
  onPut,
  onDrop,
}: {
  part: PointsPartOut
  points: Point[]
  closed: boolean
  name: (i: number) => string
  before: (i: number) => Point
  onPut: (i: number, point: Point) => void
  onDrop: (i: number) => void
}) {
  const field = 'w-20 rounded-lg border-2 border-edge bg-sheet px-2 py-1 tabular-nums'
  return (
    <ul className="grid content-start gap-3">
      {points.map((point, i) => (
        <li key={name(i)}>
          {part.count > 1 && (
            <span className="mr-2 text-ink-2 tabular-nums" aria-hidden="true">
              {i + 1}
            </span>
          )}
          <span className="font-semibold">{name(i)}</span>
          {part.readings && (
            <span className="ml-3 tabular-nums" aria-live="polite">
              {readingOf(before(i), point, part.readings)}
            </span>
          )}
          <span className="mt-1 flex flex-wrap items-center gap-2">
            {(['x', 'y'] as const).map((axis) => (
              <label key={axis} className="text-sm text-ink-2">
                {part[axis].name || axis}{' '}
                <input
                  type="number"
                  className={field}
                  aria-label={`${name(i)}, ${part[axis].name || axis}`}
                  min={part[axis].low}
                  max={part[axis].high}
                  step={part[axis].step}
                  value={point[axis]}
                  readOnly={closed}
                  onChange={(event) => onPut(i, { ...point, [axis]: Number(event.target.value) })}
                />
              </label>
            ))}
            {!closed && i === points.length - 1 && (
              <button type="button" className="text-gust hover:underline" onClick={() => onDrop(i)}>
                Take away
              </button>
            )}
          </span>
        </li>
      ))}
      {!closed && points.length < part.count && (
        <li>
          <button
            type="button"
            className="min-h-10 rounded-lg border border-gust-mid bg-sheet px-3 text-gust"
            onClick={() => onPut(points.length, part.start)}
          >
            Add {name(points.length).toLowerCase()} by numbers
          </button>
        </li>
      )}
    </ul>
  )
}

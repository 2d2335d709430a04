import type { Schemas } from '../../api/client'
import type { Point } from '../values'
import { axisText, readingOf } from './curves'

type PointsPartOut = Schemas['PointsPartOut']

interface Props {
  part: PointsPartOut
  points: Point[]
  closed: boolean
  name: (i: number) => string
  before: (i: number) => Point
  onPut: (i: number, point: Point) => void
  onDrop: (i: number) => void
}

/** The points of a grid as numbers: the same answer without the drawing. */
export function PointList({ part, points, closed, name, before, onPut, onDrop }: Props) {
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
              <Coordinate
                key={axis}
                axis={part[axis]}
                label={part[axis].name || axis}
                name={name(i)}
                value={point[axis]}
                closed={closed}
                onChange={(value) => onPut(i, { ...point, [axis]: value })}
              />
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

function Coordinate({
  axis,
  label,
  name,
  value,
  closed,
  onChange,
}: {
  axis: Schemas['AxisOut']
  label: string
  name: string
  value: number
  closed: boolean
  onChange: (value: number) => void
}) {
  const asTime = axis.clock
  const set = (text: string) => {
    if (!asTime) return onChange(Number(text))
    const [hours = 0, minutes = 0] = text.split(':').map(Number)
    if (text !== '') onChange(hours * 60 + minutes)
  }
  return (
    <label className="text-sm text-ink-2">
      {label}{' '}
      <input
        type={asTime ? 'time' : 'number'}
        className={`rounded-lg border-2 border-edge bg-sheet px-2 py-1 tabular-nums ${asTime ? 'w-28' : 'w-20'}`}
        aria-label={`${name}, ${label}`}
        min={asTime ? undefined : axis.low}
        max={asTime ? undefined : axis.high}
        step={asTime ? axis.step * 60 : axis.step}
        value={asTime ? axisText(axis, Math.min(value, 24 * 60 - 1)) : value}
        readOnly={closed}
        onChange={(event) => set(event.target.value)}
      />
    </label>
  )
}

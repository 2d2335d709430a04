import { t } from '@lingui/core/macro'
import { useId, useState } from 'react'
import type { Schemas } from '../../../api/client'
import type { Point } from '../../values'
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
              <button
                type="button"
                className="text-gust hover:underline"
                onClick={() => onDrop(i)}
              >{t`Remove`}</button>
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
          >{t`Add ${name(points.length).toLowerCase()} by numbers`}</button>
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
  const look = 'rounded-lg border-2 border-edge bg-sheet px-2 py-1 tabular-nums w-20'
  const named = `${name}, ${label}`
  const id = useId()
  return (
    <span className="inline-flex items-center gap-1.5 text-sm text-ink-2">
      <label htmlFor={id}>{label}</label>
      {axis.clock ? (
        <TimeField
          id={id}
          name={named}
          className={look}
          text={axisText(axis, value)}
          closed={closed}
          onChange={onChange}
        />
      ) : (
        <input
          id={id}
          type="number"
          className={look}
          aria-label={named}
          min={axis.low}
          max={axis.high}
          step={axis.step}
          value={value}
          readOnly={closed}
          onChange={(event) => onChange(Number(event.target.value))}
        />
      )}
    </span>
  )
}

/** A time of day as it is typed; taken over once it is whole. */
function TimeField({
  id,
  name,
  text,
  className,
  closed,
  onChange,
}: {
  id: string
  name: string
  text: string
  className: string
  closed: boolean
  onChange: (minutes: number) => void
}) {
  const [typed, setTyped] = useState<string | null>(null)
  const take = (next: string) => {
    setTyped(next)
    const whole = /^(\d{1,2})[:.]([0-5]\d)$/.exec(next.trim())
    if (whole && next.trim() !== text) onChange(Number(whole[1]) * 60 + Number(whole[2]))
  }
  return (
    <input
      id={id}
      inputMode="numeric"
      className={className}
      aria-label={name}
      maxLength={5}
      value={typed ?? text}
      readOnly={closed}
      onChange={(event) => take(event.target.value)}
      onBlur={() => setTyped(null)}
    />
  )
}

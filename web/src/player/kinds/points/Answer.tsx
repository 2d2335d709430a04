import { t } from '@lingui/core/macro'
import { Enlarge } from '../../Figure'
import { fromPoints, type Point, pointsOf } from '../../values'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'
import Board, { type PointKind } from './Board'
import { Heights } from './Curve'
import { Grid, useScale } from './Grid'
import { PointList } from './PointList'

/**
 * QTI select point, position object and graph interactions: points on a grid, by pressing, by
 * dragging, with the arrow keys, or by their numbers in the list beside it. A graph draws arrows,
 * a line or a curve through them.
 */
export default function Answer({ review, part, state, value, onChange }: PartProps<PointKind>) {
  const closed = state.state !== 'open'
  const arrows = part.kind === 'graph' && part.draws === 'arrows'
  const curved = part.kind === 'graph' && !arrows
  const points = pointsOf(value)
  const scale = useScale(part)

  const put = (i: number, point: Point) => {
    const next = [...points]
    next[i] = point
    onChange(fromPoints(next))
  }
  const name = (i: number) => part.names[i] || `${arrows ? 'Arrow' : t`Point`} ${i + 1}`
  const before = (i: number): Point => points[i - 1] ?? part.start
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      review={review}
      note={closed ? null : t`${points.length} of ${part.count} placed`}
    >
      {part.figure && (
        <p className="max-w-[28rem] text-right">
          <Enlarge
            svg={part.figure.svg}
            alt={part.figure.alt}
            over={<Grid part={part} scale={scale} />}
          />
        </p>
      )}
      <div className="grid gap-5 @4xl:grid-cols-[minmax(0,28rem)_minmax(0,1fr)]">
        <Board
          part={part}
          points={points}
          closed={closed}
          rightPoints={state.right_points}
          name={name}
          onPut={put}
        />
        <div className="grid content-start gap-4">
          <PointList
            part={part}
            points={points}
            closed={closed}
            name={name}
            before={before}
            onPut={put}
            onDrop={(i) => onChange(fromPoints(points.filter((_, j) => j !== i)))}
          />
          {curved && <Heights part={part} points={points} />}
        </div>
      </div>
    </PartGroup>
  )
}

import { lazy } from 'react'
import { PiecesReview } from '../shared/reviews'
import type { KindView, PrintedProps } from '../view'
import type { PointKind } from './Board'

const load = () => import('./Answer')
const Answer = lazy(load)

/** The grid as it was left, with the points in a list beside it. */
function Printed({ part, state, value, viewOf }: PrintedProps<PointKind>) {
  return (
    <Answer
      part={part}
      state={{ ...state, state: state.state === 'open' ? 'unanswered' : state.state }}
      value={value}
      onChange={() => undefined}
      keys={false}
      review={null}
      viewOf={viewOf}
    />
  )
}

export const points: KindView<PointKind> = {
  Answer,
  Review: ({ state }) => <PiecesReview state={state} />,
  Printed,
  load,
}

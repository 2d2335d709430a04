import { PiecesReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer } from './Answer'
import { Printed } from './Printed'

export const associate: KindView<'associate'> = {
  Answer,
  Review: ({ state }) => <PiecesReview state={state} />,
  Printed,
}

import { PiecesReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer } from './Answer'
import { Printed } from './Printed'

export const tableEntry: KindView<'table_entry'> = {
  Answer,
  Review: ({ state }) => <PiecesReview state={state} />,
  Printed,
  typed: true,
}

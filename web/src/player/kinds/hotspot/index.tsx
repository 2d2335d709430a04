import { afterDigit, digits } from '../shared/chosen'
import { WholeReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer } from './Answer'
import { Printed } from './Printed'

export const hotspot: KindView<'hotspot'> = {
  Answer,
  Review: ({ state }) => <WholeReview state={state} />,
  Printed,
  digits,
  afterDigit,
}

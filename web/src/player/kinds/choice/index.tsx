import { afterDigit, digits } from '../shared/chosen'
import { WholeReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer } from './Answer'
import { Printed } from './Printed'

export const choice: KindView<'choice'> = {
  Answer,
  Review: ({ part, state }) => <WholeReview state={state} signed={part.choose === 1} />,
  Printed,
  digits,
  afterDigit,
}

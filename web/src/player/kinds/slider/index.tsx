import { t } from '@lingui/core/macro'
import { withMinus } from '../shared/marks'
import { PaperLine } from '../shared/paper'
import { WholeReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer } from './Answer'

export const slider: KindView<'slider'> = {
  Answer,
  Review: ({ state }) => <WholeReview state={state} />,
  Printed: ({ part, value }) => (
    <p>
      <PaperLine given={withMinus(value)} />{' '}
      {t`${part.unit}, from ${withMinus(String(part.low))} to ${withMinus(String(part.high))}`}
    </p>
  ),
}

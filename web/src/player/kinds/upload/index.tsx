import { PaperRoom } from '../shared/paper'
import { ModelReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer } from './Answer'

export const upload: KindView<'upload'> = {
  Answer,
  Review: ({ state }) => <ModelReview state={state} />,
  Printed: ({ value }) => <PaperRoom high>{value}</PaperRoom>,
}

import { Html } from '../../../ui/Html'
import { PaperRoom } from '../shared/paper'
import { ModelReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer } from './Answer'

export const extendedText: KindView<'extended_text'> = {
  Answer,
  Review: ({ state }) => <ModelReview state={state} />,
  Printed: ({ state, value }) => (
    <PaperRoom high>
      {state.answer_html ? <Html html={state.answer_html} className="prose-study" /> : value}
    </PaperRoom>
  ),
}

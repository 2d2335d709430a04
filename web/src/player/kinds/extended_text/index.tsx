import { Html } from '../../../ui/Html'
import { PaperRoom } from '../shared/paper'
import { ModelReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Answer, loadEditor } from './Answer'

export const extendedText: KindView<'extended_text'> = {
  Answer,
  load: loadEditor,
  Review: ({ state }) => <ModelReview state={state} />,
  Printed: ({ state }) => (
    <PaperRoom high>
      {state.answer_html && <Html html={state.answer_html} className="prose-study" />}
    </PaperRoom>
  ),
}

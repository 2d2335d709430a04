import { t } from '@lingui/core/macro'
import { PaperRoom } from '../shared/paper'
import { ModelReview } from '../shared/reviews'
import type { KindView, PrintedProps } from '../view'
import { Answer } from './Answer'
import { HEIGHT, Strokes, sketchOf, WIDTH } from './sketch'

function Printed({ value }: PrintedProps<'drawing'>) {
  const { strokes, words } = sketchOf(value)
  return (
    <PaperRoom high>
      {strokes.length > 0 && (
        <svg
          role="img"
          aria-label={t`Sketch of ${strokes.length} strokes`}
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full max-w-[32rem]"
        >
          <Strokes strokes={strokes} />
        </svg>
      )}
      {words}
    </PaperRoom>
  )
}

export const drawing: KindView<'drawing'> = {
  Answer,
  Review: ({ state }) => <ModelReview state={state} />,
  Printed,
}

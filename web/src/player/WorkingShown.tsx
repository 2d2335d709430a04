import { t } from '@lingui/core/macro'
import type { Schemas } from '../api/client'
import { Html } from '../ui/Html'
import { Strokes } from './Strokes'
import { SHEET } from './strokes'

/** The working area of a try, as it was sent. */
export function WorkingShown({ working }: { working: Schemas['WorkingAreaOut'] }) {
  return (
    <section className="mt-6 max-w-2xl">
      <h3 className="text-lg">{t`Working`}</h3>
      {working.html && <Html html={working.html} className="prose-study mt-1" />}
      {working.strokes.length > 0 && (
        <svg
          viewBox={`0 0 ${SHEET.width} ${SHEET.height}`}
          role="img"
          aria-label={t`Sketch`}
          className="mt-2 w-full rounded-lg border border-line bg-sheet"
        >
          <Strokes strokes={working.strokes} />
        </svg>
      )}
    </section>
  )
}

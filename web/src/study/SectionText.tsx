import type { Schemas } from '../api/client'
import { Figure } from '../player/Figure'
import { Html } from '../ui/Html'

/** The text of a study section and its drawing. */
export function SectionText({ section }: { section: Schemas['StudySectionOut'] }) {
  return (
    <>
      <Html html={section.html} className="prose-study mt-3" />
      {section.figure && (
        <Figure figure={section.figure} className="-mx-4 mt-5 max-w-xl @3xl:mx-0" />
      )}
    </>
  )
}

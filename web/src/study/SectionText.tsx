import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { useCourse } from '../account/course'
import { LargeFigure } from '../player/Figure'
import { Html } from '../ui/Html'
import { Loaded } from '../ui/states'
import { openedQuery } from './queries'
import { Resources } from './Resources'

/** The text of a study section and its drawing; to show it is to open it. onOpened: once that is
 * on record. */
export function SectionText({
  topic,
  section,
  onOpened,
}: {
  topic: string
  section: string
  onOpened?: () => void
}) {
  const query = useQuery(openedQuery(useCourse(), topic, section))
  const opened = useRef(onOpened)
  opened.current = onOpened
  useEffect(() => {
    if (query.isSuccess) opened.current?.()
  }, [query.isSuccess])
  return (
    <Loaded query={query} what={t`the section`}>
      {(text) => (
        <>
          <Html html={text.html} className="prose-study mt-3" />
          {text.figure && (
            <LargeFigure figure={text.figure} className="-mx-4 mt-5 max-w-xl @3xl:mx-0" />
          )}
          <Resources resources={text.resources} />
        </>
      )}
    </Loaded>
  )
}

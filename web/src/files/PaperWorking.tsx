import { Suspense } from 'react'
import { PaperSheets } from './lazily'
import type { FilesPlace } from './place'

/** Working on paper beside an answer, loaded where it is shown. look: nothing can be added. */
export const PaperWorking = (props: { at: FilesPlace; look?: boolean }) => (
  <Suspense>
    <PaperSheets {...props} />
  </Suspense>
)

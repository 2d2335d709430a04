import { t } from '@lingui/core/macro'
import { useTitle } from '../../../ui/useTitle'
import { Platforms } from './Platforms'
import { RecordStore } from './RecordStore'

/** What goes to other programs, and who may ask for it. */
export default function ProgramsPage() {
  useTitle(t`Other programs`)
  return (
    <main id="main" className="grid max-w-4xl gap-9 px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Other programs`}</h1>
      <Platforms />
      <RecordStore />
    </main>
  )
}

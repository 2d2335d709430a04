import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useCourse } from '../../../account/course'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { MarksOfTerms } from '../../marks/MarksOfTerms'
import { ownMarksQuery } from '../../marks/queries'

/** My marks: what they are, how they came about and what can still change them. */
export default function MarksPage() {
  useTitle(t`My marks`)
  const query = useQuery(ownMarksQuery(useCourse()))
  return (
    <Loaded query={query} what={t`your marks`}>
      {(found) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <h1 className="text-3xl">{t`My marks`}</h1>
          <MarksOfTerms found={found} />
        </main>
      )}
    </Loaded>
  )
}

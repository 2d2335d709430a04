import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { MarksOfTerms } from '../marks/MarksOfTerms'
import { learnerMarksQuery } from '../marks/queries'
import { Back } from './Back'

/** A learner's marks, as they see them themselves. */
export default function LearnerMarksPage({ home }: { home: string }) {
  useTitle(t`Marks`)
  const id = Number(useParams().learner)
  const query = useQuery(learnerMarksQuery(id))
  return (
    <Loaded query={query} what={t`the marks`}>
      {(found) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <Back id={id} home={home} />
          <h1 className="text-3xl">{t`Marks`}</h1>
          <MarksOfTerms found={found} />
        </main>
      )}
    </Loaded>
  )
}

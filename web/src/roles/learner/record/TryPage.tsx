import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { Button } from '../../../ui/Button'
import { TextLink } from '../../../ui/TextLink'
import { tryQuery } from '../../record/queries'
import { TryView } from '../../record/TryView'

const AskSheet = lazy(() => import('../../../activities/AskSheet'))

/** One of the learner's own tries. */
export default function TryPage() {
  const to = useTo()
  const course = useCourse()
  const id = Number(useParams().id)
  const [asking, setAsking] = useState(false)
  const tried = useQuery(tryQuery(course, id)).data
  return (
    <TryView whose={course} id={id}>
      <p className="flex items-center justify-between">
        <TextLink to={to('/record')}>{t`Record`}</TextLink>
        <Button kind="quiet" onClick={() => setAsking(true)}>{t`Ask or report`}</Button>
      </p>
      {asking && tried && (
        <Suspense>
          <AskSheet
            question={tried.question.id}
            answered
            worked={tried.working !== null}
            onClose={() => setAsking(false)}
          />
        </Suspense>
      )}
    </TryView>
  )
}

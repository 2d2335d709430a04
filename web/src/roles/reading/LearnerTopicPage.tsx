import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { Back } from './Back'
import { learnerTopicQuery } from './queries'
import { TopicView } from './TopicView'

/** One topic of a learner, read only. */
export default function LearnerTopicPage({ home }: { home: string }) {
  const { learner, key = '' } = useParams()
  const id = Number(learner)
  const query = useQuery(learnerTopicQuery(id, key))
  useTitle(query.data?.line.title ?? t`Topic`)
  return (
    <Loaded query={query} what={t`the topic`}>
      {(page) => (
        <main id="main" className="px-5 py-8 @5xl:px-8">
          <Back id={id} home={home} />
          <h1 className="text-3xl">{page.line.title}</h1>
          <TopicView page={page} />
        </main>
      )}
    </Loaded>
  )
}

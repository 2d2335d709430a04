import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { TopicView } from '../../reading/TopicView'
import { topicQuery } from '../queries'
import { Ideas } from './Ideas'

export default function TopicPage() {
  const { key = '' } = useParams()
  const query = useQuery(topicQuery(useCourse(), key))
  useTitle(query.data?.line.title ?? t`Topic`)
  return (
    <Loaded query={query} what={t`the topic`}>
      {(page) => <Topic page={page} />}
    </Loaded>
  )
}

function Topic({ page }: { page: Schemas['TopicPageOut'] }) {
  const { line } = page
  const start = useStart()
  const to = useTo()
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={to('/topics')}>{t`All topics`}</TextLink>
      <div className="mt-1 flex flex-wrap items-start justify-between gap-x-8 gap-y-4">
        <div className="max-w-2xl">
          <h1 className="text-3xl">{line.title}</h1>
          <p className="mt-1.5 text-[1.05rem] text-ink-2">{page.target_sentence}</p>
        </div>
        <div className="flex flex-wrap gap-3">
          <Button
            kind="strong"
            disabled={start.isPending}
            onClick={() => start.mutate({ purpose: 'practice', topics: [line.key] })}
          >{t`Practise`}</Button>
          <Link
            to={to(`/study/${line.key}`)}
            className={buttonClass('plain')}
          >{t`Study page`}</Link>
        </div>
      </div>
      {start.error && (
        <p role="alert" className="mt-2 text-wrong">
          {start.error.message}
        </p>
      )}
      <TopicView
        page={page}
        studyAt={(section) => to(`/study/${section.topic}#${section.section}`)}
      />
      <Ideas topic={line.key} ideas={page.ideas} />
    </main>
  )
}

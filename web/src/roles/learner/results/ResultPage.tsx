import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { Link, useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { resultQuery, resultsQuery } from '../../../activities/exam/queries'
import { Button, buttonClass } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { ResultBody } from './ResultBody'

const AskSheet = lazy(() => import('../../../activities/AskSheet'))
const ContestSheet = lazy(() => import('../../../activities/ContestSheet'))

/** One question of an attempt that is over, as it was, with the way to the next. */
export default function ResultPage() {
  const { id, number } = useParams()
  const attempt = Number(id)
  const at = Number(number)
  const course = useCourse()
  const to = useTo()
  const query = useQuery(resultQuery(course, attempt, at))
  const count = useQuery(resultsQuery(course, attempt)).data?.lines.length ?? at
  const [asking, setAsking] = useState(false)
  const [contesting, setContesting] = useState(false)
  useTitle(t`Results, question ${at}`)
  const next = (other: number, label: string) => (
    <Link to={to(`/tests/attempts/${attempt}/results/${other}`)} className={buttonClass('plain')}>
      {label}
    </Link>
  )
  return (
    <Loaded query={query} what={t`the question`}>
      {(shown) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <TextLink
            to={to(`/tests/attempts/${attempt}/results`)}
          >{t`All results of this attempt`}</TextLink>
          <ResultBody
            shown={shown}
            attempt={attempt}
            heading={
              <h1 className="mt-1 text-2xl">
                {shown.line.number}. {shown.line.title}
              </h1>
            }
          />
          <div className="mt-7 flex flex-wrap gap-3 print:hidden">
            {at > 1 && next(at - 1, t`Previous question`)}
            {at < count && next(at + 1, t`Next question`)}
            <Button kind="quiet" onClick={() => setAsking(true)}>{t`Ask or report`}</Button>
            {shown.can_contest && (
              <Button
                kind="quiet"
                onClick={() => setContesting(true)}
              >{t`Contest this mark`}</Button>
            )}
          </div>
          {contesting && (
            <Suspense>
              <ContestSheet question={shown.question.id} onClose={() => setContesting(false)} />
            </Suspense>
          )}
          {asking && (
            <Suspense>
              <AskSheet
                question={shown.question.id}
                answered={shown.line.result !== 'empty'}
                worked={shown.working !== null}
                onClose={() => setAsking(false)}
              />
            </Suspense>
          )}
        </main>
      )}
    </Loaded>
  )
}

import { t } from '@lingui/core/macro'
import { useQueries, useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { resultQuery, resultsQuery } from '../../../activities/exam/queries'
import { Button } from '../../../ui/Button'
import { Loaded, Loading } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { ResultBody } from './ResultBody'
import { Headline } from './ResultsPage'

/** Every question of an attempt one after another, to be printed. */
export default function ResultsWholePage() {
  const id = Number(useParams().id)
  const course = useCourse()
  const query = useQuery(resultsQuery(course, id))
  const numbers = query.data?.lines.map((line) => line.number) ?? []
  const questions = useQueries({
    queries: numbers.map((number) => resultQuery(course, id, number)),
  })
  const to = useTo()
  useTitle(t`Results with the questions`)
  const all = questions.flatMap((one) => (one.data ? [one.data] : []))
  return (
    <Loaded query={query} what={t`the results`}>
      {(results) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <TextLink
            to={to(`/tests/attempts/${id}/results`)}
            className="print:hidden"
          >{t`Back to the results`}</TextLink>
          <p className="mt-1 text-ink-2">{results.test}</p>
          <Headline results={results} />
          {all.length < numbers.length ? (
            <Loading what={t`the questions`} />
          ) : (
            <Button
              kind="strong"
              className="mt-4 print:hidden"
              onClick={() => window.print()}
            >{t`Print`}</Button>
          )}
          {all.map((shown) => (
            <article
              key={shown.line.number}
              className="mt-8 break-inside-avoid border-t border-line pt-5"
            >
              <ResultBody
                shown={shown}
                attempt={id}
                printed
                heading={
                  <h2 className="text-xl">
                    {shown.line.number}. {shown.line.title}
                  </h2>
                }
              />
            </article>
          ))}
        </main>
      )}
    </Loaded>
  )
}

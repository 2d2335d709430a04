import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { Link, useParams } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import { resultQuery, resultsQuery } from '../../activities/exam/queries'
import { QuestionView } from '../../player/QuestionView'
import { Solution } from '../../player/Solution'
import { WorkingShown } from '../../player/WorkingShown'
import { Button, buttonClass } from '../../ui/Button'
import { Sign } from '../../ui/Sign'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { duration } from '../../ui/words'
import { RESULTS, SIGNS } from './ResultsPage'

const AskSheet = lazy(() => import('../../activities/AskSheet'))

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
  useTitle(`Results, question ${at}`)
  const next = (other: number, label: string) => (
    <Link to={to(`/tests/attempts/${attempt}/results/${other}`)} className={buttonClass('plain')}>
      {label}
    </Link>
  )
  return (
    <Loaded query={query} what="the question">
      {({ line, question, working }) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <Link to={to(`/tests/attempts/${attempt}/results`)} className="text-gust hover:underline">
            All results of this attempt
          </Link>
          <h1 className="mt-1 text-2xl">
            {line.number}. {line.title}
          </h1>
          <p className="mt-1 mb-5 flex flex-wrap items-center gap-x-5 gap-y-1 text-ink-2">
            <span className="inline-flex items-center gap-2 font-semibold text-ink">
              <Sign kind={SIGNS[line.result]} size={18} word={false} />
              {RESULTS[line.result]}
            </span>
            <span>{line.sum ?? `worth ${line.of}`}</span>
            <span>
              {duration(line.seconds)} in view; such questions usually take {duration(line.needed)}
            </span>
          </p>
          <QuestionView
            question={question}
            responses={Object.fromEntries(question.states.map((s) => [s.id, s.answer]))}
            onChange={() => undefined}
          />
          {working && <WorkingShown working={working} />}
          {question.solution && (
            <Solution
              steps={question.solution}
              source={question.source}
              figure={question.solution_figure}
            />
          )}
          <div className="mt-7 flex flex-wrap gap-3 print:hidden">
            {at > 1 && next(at - 1, 'Question before')}
            {at < count && next(at + 1, 'Next question')}
            <Button kind="quiet" onClick={() => setAsking(true)}>
              Ask or report
            </Button>
          </div>
          {asking && (
            <Suspense>
              <AskSheet
                question={question.id}
                answered={line.result !== 'empty'}
                worked={working !== null}
                onClose={() => setAsking(false)}
              />
            </Suspense>
          )}
        </main>
      )}
    </Loaded>
  )
}

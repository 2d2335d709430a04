import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { resultsQuery } from '../../../activities/exam/queries'
import type { Schemas } from '../../../api/client'
import { buttonClass } from '../../../ui/Button'
import { duration } from '../../../ui/durations'
import { type Filter, FilterRow, filtered } from '../../../ui/FilterRow'
import { Sign } from '../../../ui/Sign'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted, moment } from '../../../ui/words'
import { GroupStrip, LevelSteps } from './ResultsBeside'
import { ResultsByTopic, StudyAfter } from './ResultsByTopic'
import { ResultsFiles } from './ResultsFiles'

type Results = Schemas['ResultsOut']
type Line = Schemas['ResultLineOut']

export const RESULTS: Record<Line['result'], string> = {
  right: 'right',
  partly: t`partly right`,
  wrong: 'wrong',
  empty: 'empty',
  waiting: t`not marked yet`,
  by_hand: t`a tutor would mark this`,
  dropped: 'dropped',
  not_told: t`not shown yet`,
}
export const SIGNS = {
  right: 'right',
  partly: 'partly',
  wrong: 'wrong',
  empty: 'note',
  waiting: 'note',
  by_hand: 'note',
  dropped: 'note',
  not_told: 'note',
} as const

/** An attempt that is over: points and how they came about, as far as they may be told. */
export default function ResultsPage() {
  const id = Number(useParams().id)
  const query = useQuery(resultsQuery(useCourse(), id))
  useTitle(t`Results`)
  return (
    <Loaded query={query} what={t`the results`}>
      {(results) => <Shown results={results} />}
    </Loaded>
  )
}

function Shown({ results }: { results: Results }) {
  const to = useTo()
  const { attempt } = results
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={to(`/tests/${results.ref}`)}>{results.test}</TextLink>
      <Headline results={results} />
      <p className="mt-1.5 text-ink-2">
        {t`Attempt ${attempt.number}, started ${moment(attempt.begun)}`}
        {attempt.handed_in && t`, handed in ${moment(attempt.handed_in)}`}
        {t`; ${results.minutes} min. ${attempt.why_over ?? ''}`}
      </p>
      {results.told_when.length > 0 && (
        <ul className="mt-3 max-w-2xl border-l-4 border-sun pl-4">
          {results.told_when.map((line) => (
            <li key={line.about}>
              {line.about}: {line.says}
            </li>
          ))}
        </ul>
      )}
      <Questions results={results} />
      <p className="mt-7 flex flex-wrap gap-3 print:hidden">
        <Link to={to('/review')} className={buttonClass('plain')}>{t`See my mistakes`}</Link>
        <Link
          to={to(`/tests/${results.ref}`)}
          className={buttonClass('plain')}
        >{t`The test’s own page`}</Link>
        <Link
          to={to(`/tests/attempts/${attempt.id}/receipt`)}
          className={buttonClass('plain')}
        >{t`Receipt`}</Link>
        {results.mirror_ref && (
          <Link
            to={to(`/tests/${results.mirror_ref}`)}
            className={buttonClass('plain')}
          >{t`Practise with new numbers`}</Link>
        )}
      </p>
      {results.topics.length > 0 && <ResultsByTopic topics={results.topics} />}
      {results.study.length > 0 && <StudyAfter study={results.study} />}
      {results.group && <GroupStrip group={results.group} />}
      {results.levels.length > 0 && <LevelSteps steps={results.levels} />}
      <ResultsFiles attempt={attempt.id} />
    </main>
  )
}

export function Headline({ results }: { results: Results }) {
  const { points } = results.attempt
  if (!points)
    return <h1 className="mt-1 text-3xl">{t`Handed in. You’ll see your points later`}</h1>
  return (
    <>
      <h1 className="mt-1 text-3xl">
        {t`${points.reached} of ${points.of} points`}
        {points.waiting > 0 && t` so far`}
      </h1>
      <p className="mt-1 text-[1.1rem]">
        {points.waiting > 0
          ? t`${points.marked} of ${points.of} points so far. Not marked yet: ${counted(points.waiting, 'question')}.`
          : points.verdict}
      </p>
    </>
  )
}

const FILTERS: Filter<Line>[] = [
  ['all', t`All`, () => true],
  ['missed', t`Not right`, (line) => ['wrong', 'partly', 'empty'].includes(line.result)],
  ['flagged', t`Flagged`, (line) => line.flagged],
  ['slow', t`Much longer than usual`, (line) => line.seconds > 1.5 * line.needed],
]

function Questions({ results }: { results: Results }) {
  const [filter, setFilter] = useState('all')
  const to = useTo()
  const shown = filtered(results.lines, FILTERS, filter)
  return (
    <section aria-labelledby="questions" className="mt-6">
      <h2 id="questions" className="text-xl">{t`Questions`}</h2>
      <FilterRow
        all={results.lines}
        filters={FILTERS}
        chosen={filter}
        onChoose={setFilter}
        className="mt-2 print:hidden"
      />
      <ul className="mt-2">
        {shown.map((line) => (
          <li
            key={line.number}
            className="grid grid-cols-[2rem_minmax(0,1fr)_auto] items-start gap-x-4 gap-y-0.5 border-b border-line py-2.5 @3xl:grid-cols-[2rem_minmax(0,1fr)_9rem_11rem_11rem]"
          >
            <span className="pt-0.5 text-ink-2 tabular-nums">{line.number}</span>
            <span>
              <TextLink
                to={to(`/tests/attempts/${results.attempt.id}/results/${line.number}`)}
                className="font-semibold"
              >
                {line.title}
              </TextLink>
              {line.topic && <span className="block text-ink-2">{line.topic.title}</span>}
              {line.note && <span className="block text-ink-2">{t`Note: ${line.note}`}</span>}
            </span>
            <span className="inline-flex items-center gap-2">
              <Sign kind={SIGNS[line.result]} size={18} word={false} />
              {RESULTS[line.result]}
            </span>
            <span className="hidden tabular-nums @3xl:block">
              {line.points === null ? t`of ${line.of}` : t`${line.points} of ${line.of}`}
              {line.sum && <span className="block text-sm text-ink-2">{line.sum}</span>}
            </span>
            <span className="hidden text-ink-2 tabular-nums @3xl:block">
              {t`${duration(line.seconds)}; usually ${duration(line.needed)}`}
            </span>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="mt-3 text-ink-2">{t`No questions match.`}</p>}
    </section>
  )
}

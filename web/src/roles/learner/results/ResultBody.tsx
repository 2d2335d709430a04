import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'
import { useCourse } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { PaperWorking } from '../../../files/PaperWorking'
import { FilesAt, useFilesAt } from '../../../files/place'
import { QuestionView } from '../../../player/QuestionView'
import { Solution } from '../../../player/Solution'
import { WorkingShown } from '../../../player/WorkingShown'
import { duration } from '../../../ui/durations'
import { Sign } from '../../../ui/Sign'
import { clockTime } from '../../../ui/words'
import { NotedText } from '../../marking/NotedText'
import { RESULTS, SIGNS } from './ResultsPage'

type Shown = Schemas['ResultQuestionOut']

/** A question of an attempt that is over, as it was, and beside it what may be told. */
export function ResultBody({
  shown,
  attempt,
  heading,
  printed = false,
}: {
  shown: Shown
  attempt: number
  heading: ReactNode
  printed?: boolean
}) {
  const { line, question, working, tries, pages } = shown
  const course = useCourse()
  const at = useFilesAt(question.id)
  return (
    <>
      {heading}
      <p className="mt-1 mb-5 flex flex-wrap items-center gap-x-5 gap-y-1 text-ink-2">
        <span className="inline-flex items-center gap-2 font-semibold text-ink">
          <Sign kind={SIGNS[line.result]} size={18} word={false} />
          {RESULTS[line.result]}
        </span>
        <span>
          {line.points === null ? t`worth ${line.of}` : t`${line.points} of ${line.of}`}
          {line.sum && `: ${line.sum}`}
        </span>
        <span>
          {t`You took ${duration(line.seconds)}. These questions usually take ${duration(line.needed)}`}
        </span>
      </p>
      <FilesAt value={at}>
        <QuestionView
          question={question}
          responses={Object.fromEntries(question.states.map((s) => [s.id, s.answer]))}
          onChange={() => undefined}
          printed={printed}
        />
      </FilesAt>
      {shown.by_person.map((one) => (
        <ByPerson key={one.part} mark={one} />
      ))}
      {tries.length > 1 && <Tries tries={tries} />}
      {pages.length > 0 && (
        <ul aria-label={t`Pages of paper`} className="mt-5 flex flex-wrap gap-3">
          {pages.map((page, index) => (
            <li key={page}>
              <a
                href={`/api/courses/${course}/attempts/${attempt}/paper/pages/${page}/picture`}
                target="_blank"
                rel="noreferrer"
              >
                <img
                  src={`/api/courses/${course}/attempts/${attempt}/paper/pages/${page}/picture?small=true`}
                  alt={t`Page ${index + 1} of this answer, in full in a new window`}
                  className="h-48 rounded-lg bg-rail object-contain"
                />
              </a>
            </li>
          ))}
        </ul>
      )}
      {working && <WorkingShown working={working} />}
      {!printed && <PaperWorking at={at} look />}
      {question.solution && (
        <Solution
          steps={question.solution}
          source={question.source}
          figure={question.solution_figure}
        />
      )}
    </>
  )
}

/** What a marker gave: points by criterion, comments in the text and below it. */
function ByPerson({ mark }: { mark: Shown['by_person'][number] }) {
  return (
    <section aria-label={t`Marked by your tutor`} className="mt-6 max-w-[45rem]">
      <h2 className="text-lg">
        {mark.label ? `${mark.label}: ` : ''}
        {t`${mark.reached} of ${mark.of} points from your tutor`}
      </h2>
      {mark.criteria.length > 0 && (
        <ul className="mt-1">
          {mark.criteria.map((criterion, n) => (
            <li
              key={criterion.says}
              className="flex justify-between gap-4 border-b border-line py-1"
            >
              <span>{criterion.says}</span>
              <span className="tabular-nums">
                {mark.points[n] ?? '0'} {t`of ${criterion.points}`}
              </span>
            </li>
          ))}
        </ul>
      )}
      {mark.noted_html && (
        <div className="mt-3">
          <NotedText html={mark.noted_html} notes={mark.notes} />
        </div>
      )}
      {mark.comment && <p className="mt-3 border-l-4 border-sun pl-4">{mark.comment}</p>}
    </section>
  )
}

function Tries({ tries }: { tries: Shown['tries'] }) {
  return (
    <section aria-label={t`Every try`} className="mt-6 max-w-[45rem]">
      <h2 className="text-lg">{t`Every try`}</h2>
      <ol className="mt-1">
        {tries.map((one) => (
          <li
            key={one.number}
            className="grid grid-cols-[4rem_6rem_minmax(0,1fr)_5rem] gap-x-4 border-b border-line py-1.5"
          >
            <span className="text-ink-2">{t`Try ${one.number}`}</span>
            <span className="text-ink-2 tabular-nums">{clockTime(one.at)}</span>
            <span>{one.given}</span>
            <span className="text-right tabular-nums">{one.share ?? ''}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { kindOf } from '../../activities/descriptors'
import type { Schemas } from '../../api/client'
import { PaperWorking } from '../../files/PaperWorking'
import { FilesAt } from '../../files/place'
import { QuestionView } from '../../player/QuestionView'
import { Solution } from '../../player/Solution'
import { WorkingShown } from '../../player/WorkingShown'
import { duration } from '../../ui/durations'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { capital, moment } from '../../ui/words'
import { tryQuery, type Whose } from './queries'

const filesOf = (whose: Whose, question: number) => ({
  whose: typeof whose === 'string' ? { course: whose } : { enrolment: whose },
  question,
})

/** One try with its question as it was. */
export function TryView({
  whose,
  id,
  children,
  below,
}: {
  whose: Whose
  id: number
  children: ReactNode
  /** What its reader may do with it. */
  below?: (shown: Schemas['TryOut']) => ReactNode
}) {
  useTitle(t`One try`)
  const query = useQuery(tryQuery(whose, id))
  return (
    <Loaded query={query} what={t`the try`}>
      {(shown) => {
        const { line, question, given, working, voided } = shown
        return (
          <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
            {children}
            <h1 className="text-2xl">{line.title}</h1>
            <p className="mb-5 text-ink-2">
              {t`${capital(kindOf(line.purpose))}, ${moment(line.at)}, try ${line.number}, ${duration(line.seconds)}`}
              {line.sure !== null && t`, ${line.sure}% sure`}
              {line.why && `; ${line.why}`}
            </p>
            {voided && (
              <p className="mb-5 border-l-4 border-sun pl-3">{t`Not counted: ${voided.why} (${voided.by}, ${moment(voided.at)})`}</p>
            )}
            <FilesAt value={filesOf(whose, question.id)}>
              <QuestionView question={question} responses={given} onChange={() => undefined} />
            </FilesAt>
            {working && <WorkingShown working={working} />}
            <PaperWorking at={filesOf(whose, question.id)} />
            {question.solution && (
              <Solution
                steps={question.solution}
                source={question.source}
                figure={question.solution_figure}
              />
            )}
            {below?.(shown)}
          </main>
        )
      }}
    </Loaded>
  )
}

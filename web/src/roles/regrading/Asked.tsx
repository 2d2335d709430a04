import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { QuestionView } from '../../player/QuestionView'
import { Solution } from '../../player/Solution'
import { TextLink } from '../../ui/TextLink'

/** The question as one learner had it, with its key; and answers to look at. */
export function Asked({ choice }: { choice: Schemas['RegradeChoiceOut'] }) {
  const { question, looks } = choice
  return (
    <section aria-label={t`The question and its key`} className="mt-5 rounded-box bg-sheet p-5">
      <QuestionView question={question} responses={{}} onChange={() => undefined} />
      {question.solution && (
        <Solution
          steps={question.solution}
          source={question.source}
          figure={question.solution_figure}
        />
      )}
      {looks.length > 0 && (
        <p className="mt-4 flex flex-wrap gap-x-4">
          <span className="text-ink-2">{t`Look at an answer:`}</span>
          {looks.map((one) => (
            <TextLink key={one.tried} to={`/tutor/learners/${one.learner}/tries/${one.tried}`}>
              {one.name}
              {one.share !== null && ` (${one.share}%)`}
            </TextLink>
          ))}
        </p>
      )}
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { counted } from '../../../ui/words'

/** What the learner’s group asks beside the course. */
export function OwnQuestions({ own }: { own: Schemas['OwnQuestionsOut'] }) {
  const start = useStart()
  const { families, topics } = own
  const questions = families.length
  return (
    <section className="mt-5 flex flex-wrap items-center justify-between gap-x-8 gap-y-2 rounded-box bg-sheet p-4">
      <div>
        <h2 className="text-lg">{t`From your tutor: ${counted(questions, 'question')}`}</h2>
        <p className="text-ink-2">{t`Only your group gets these. They don’t change your level.`}</p>
      </div>
      <Button
        disabled={start.isPending}
        onClick={() =>
          start.mutate({
            purpose: 'practice',
            topics,
            goal: { kind: 'questions', questions, families },
          })
        }
      >{t`Practise your group’s questions`}</Button>
      <Problem error={start.error} />
    </section>
  )
}

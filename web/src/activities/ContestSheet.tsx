import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { useCourse } from '../account/course'
import { useKept } from '../account/useKept'
import { api, call } from '../api/client'
import { Sheet } from '../ui/Sheet'
import { useSend } from './AskSheet'
import { OneTextForm, Sent } from './OneTextForm'

/** Contest the mark of a question: the tutor gets it with the answer, the working and the reason. */
export default function ContestSheet({
  question,
  onClose,
}: {
  question: number
  onClose: () => void
}) {
  const course = useCourse()
  const [thread, setThread] = useState<number | null>(null)
  const kept = useKept(`contest:${question}`, () => '')
  const send = useSend(
    (text: string) =>
      call(
        api.POST('/api/courses/{course}/questions/{question_id}/contest', {
          params: { path: { course, question_id: question } },
          body: { text },
        }),
      ),
    (id) => {
      kept.saved('')
      setThread(id)
    },
  )
  return (
    <Sheet open onOpenChange={onClose} title={t`Contest this mark`}>
      {thread === null ? (
        <OneTextForm
          label={t`Why do you think the mark is wrong?`}
          note={t`Your tutor sees the question, your answer and your working. The mark stays as it is until your tutor answers.`}
          action={t`Contest it`}
          busy={send.isPending}
          error={send.error}
          kept={kept}
          onSend={send.mutate}
        />
      ) : (
        <Sent
          says={t`Your tutor will look at it. You’ll find the answer in your messages.`}
          back={t`Back to the results`}
          thread={thread}
          onClose={onClose}
        />
      )}
    </Sheet>
  )
}

import { useState } from 'react'
import { Link } from 'react-router'
import { useCourse } from '../account/course'
import { api, call } from '../api/client'
import { Button, buttonClass } from '../ui/Button'
import { Labelled, Problem, TextArea } from '../ui/Field'
import { Sheet } from '../ui/Sheet'
import { useSend } from './AskSheet'

/** Contest the mark of a question: the tutor gets it with the answer, the working and the reason. */
export default function ContestSheet({
  question,
  onClose,
}: {
  question: number
  onClose: () => void
}) {
  const course = useCourse()
  const [text, setText] = useState('')
  const [thread, setThread] = useState<number | null>(null)
  const send = useSend(
    () =>
      call(
        api.POST('/api/courses/{course}/questions/{question_id}/contest', {
          params: { path: { course, question_id: question } },
          body: { text },
        }),
      ),
    setThread,
  )
  return (
    <Sheet open onOpenChange={onClose} title="Contest this mark">
      {thread === null ? (
        <form
          className="mt-4 grid gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            send.mutate(undefined)
          }}
        >
          <Labelled label="Why the mark should be another one">
            <TextArea
              rows={4}
              required
              maxLength={4000}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </Labelled>
          <p className="text-ink-2">
            Your tutor gets it with the question, your answer and your working. The mark stands
            until the tutor has answered.
          </p>
          <Button
            type="submit"
            kind="strong"
            className="justify-self-start"
            disabled={send.isPending}
          >
            Contest it
          </Button>
          <Problem error={send.error} />
        </form>
      ) : (
        <div className="mt-4" role="status">
          <p>It waits for your tutor. The answer comes to your messages.</p>
          <p className="mt-4 flex gap-3">
            <Button kind="strong" onClick={onClose}>
              Back to the results
            </Button>
            <Link to={`/threads/${thread}`} className={buttonClass('plain')}>
              See it
            </Link>
          </p>
        </div>
      )}
    </Sheet>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useRef } from 'react'
import { useCourse } from '../../account/course'
import { api, call, type Question } from '../../api/client'
import { newKey } from '../../player/draft'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Sending } from '../../ui/Sending'
import { counted } from '../../ui/words'
import type { Place } from './queries'

/** Where each question is marked when it is sent: the one way an answer travels. */
export function SendOne({
  place,
  responses,
  canChange,
  onSent,
}: {
  place: Place
  responses: Record<string, string>
  canChange: boolean
  onSent: (question: Question) => void
}) {
  const course = useCourse()
  const key = useRef({ key: newKey(), body: '' })
  const send = useMutation({
    mutationFn: () => {
      const body = JSON.stringify(responses)
      if (key.current.body !== body) key.current = { key: newKey(), body }
      return call(
        api.POST('/api/courses/{course}/questions/{question_id}/answer', {
          params: { path: { course, question_id: place.question.id } },
          body: { replay_key: key.current.key, responses, not_taught: false },
        }),
      )
    },
    onSuccess: (answer) => onSent(answer.question),
  })
  const { tries_left: left, tries_all: all } = place.question
  const feedback = send.data?.feedback
  return (
    <div className="mt-5 grid max-w-[45rem] gap-3">
      {canChange && (
        <div className="flex flex-wrap items-center gap-4">
          <Button
            kind="strong"
            disabled={send.isPending}
            onClick={() => send.mutate()}
          >{t`Send this answer`}</Button>
          <Sending busy={send.isPending} />
          {all > 1 && <span className="text-ink-2">{t`${counted(left, 'try')} left`}</span>}
        </div>
      )}
      <div aria-live="assertive">
        {feedback && feedback.verdict !== 'not_counted' && (
          <p className="rounded-box bg-rail p-4">
            <strong>{feedback.headline}</strong> {feedback.detail}
          </p>
        )}
        {feedback?.verdict === 'not_counted' && (
          <p className="rounded-box bg-part-soft p-4 text-part">
            {feedback.headline} {feedback.detail}
          </p>
        )}
      </div>
      <Problem error={send.error} />
    </div>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useCourse } from '../account/course'
import { useKept } from '../account/useKept'
import { api, call, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import { Button } from '../ui/Button'
import { Check } from '../ui/Check'
import { Labelled, Problem, TextArea } from '../ui/Field'
import { Sheet } from '../ui/Sheet'
import { Loaded } from '../ui/states'
import { OneTextForm, Sent } from './OneTextForm'
import { classmatesQuery } from './requests'

interface Props {
  question: number
  /** Whether an answer, and working, could go with it. */
  answered: boolean
  worked: boolean
  onClose: () => void
}

/** Ask somebody about a question, or report it as faulty. */
export default function AskSheet({ question, answered, worked, onClose }: Props) {
  const [fault, setFault] = useState(false)
  const [thread, setThread] = useState<number | null>(null)
  return (
    <Sheet open onOpenChange={onClose} title={fault ? t`Report a problem` : t`Ask for help`}>
      {thread !== null ? (
        <Sent
          says={
            fault
              ? t`The authors have it, together with this question.`
              : t`Sent. You’ll find the answer in your messages.`
          }
          back={t`Back to the question`}
          thread={thread}
          onClose={onClose}
        />
      ) : (
        <>
          <fieldset className="mt-4 flex flex-wrap gap-6">
            <legend className="sr-only">{t`What is this about?`}</legend>
            <Pick on={!fault} set={() => setFault(false)} label={t`I need help with it`} />
            <Pick on={fault} set={() => setFault(true)} label={t`I think the question is wrong`} />
          </fieldset>
          {fault ? (
            <FaultForm question={question} onSent={setThread} />
          ) : (
            <HelpForm question={question} answered={answered} worked={worked} onSent={setThread} />
          )}
        </>
      )}
    </Sheet>
  )
}

function Pick({ on, set, label }: { on: boolean; set: () => void; label: string }) {
  return (
    <label className="flex items-center gap-2">
      <input type="radio" name="about" className="size-5 accent-gust" checked={on} onChange={set} />
      {label}
    </label>
  )
}

/** How a thread is begun: once it is, its number is told. */
export function useSend<V>(
  send: (input: V) => Promise<Schemas['ThreadOut']>,
  onSent: (id: number) => void,
) {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: send,
    onSuccess: (thread) => {
      void cache.invalidateQueries({ queryKey: keys.threads })
      onSent(thread.line.id)
    },
  })
}

function FaultForm({ question, onSent }: { question: number; onSent: (id: number) => void }) {
  const course = useCourse()
  const kept = useKept(`fault:${question}`, () => '')
  const send = useSend(
    (text: string) =>
      call(
        api.POST('/api/courses/{course}/questions/{question_id}/fault', {
          params: { path: { course, question_id: question } },
          body: { text },
        }),
      ),
    (id) => {
      kept.saved('')
      onSent(id)
    },
  )
  return (
    <OneTextForm
      label={t`What is wrong?`}
      note={t`We send the question and your answer, but not your name.`}
      action={t`Report it`}
      busy={send.isPending}
      error={send.error}
      kept={kept}
      onSend={send.mutate}
    />
  )
}

function HelpForm({
  question,
  answered,
  worked,
  onSent,
}: Omit<Props, 'onClose'> & { onSent: (id: number) => void }) {
  const query = useQuery(classmatesQuery(useCourse()))
  return (
    <Loaded query={query} what={t`who you can ask`}>
      {(people) =>
        people.tutors.length + people.classmates.length === 0 ? (
          <p className="mt-4">{t`You aren’t in a group yet, so there is nobody to ask. Ask a tutor for a code.`}</p>
        ) : (
          <ToPeople
            question={question}
            answered={answered}
            worked={worked}
            people={people}
            onSent={onSent}
          />
        )
      }
    </Loaded>
  )
}

function ToPeople({
  question,
  answered,
  worked,
  people,
  onSent,
}: Omit<Props, 'onClose'> & {
  people: Schemas['ClassmatesOut']
  onSent: (id: number) => void
}) {
  const course = useCourse()
  const kept = useKept(`ask:${question}`, () => '')
  const { value: text, set: setText } = kept
  const [toTutor, setToTutor] = useState(people.tutors.length > 0)
  const [chosen, setChosen] = useState<number[]>([])
  const [answer, setAnswer] = useState(true)
  const [working, setWorking] = useState(worked)
  const send = useSend(
    (body: Schemas['AskHelpIn']) =>
      call(
        api.POST('/api/courses/{course}/questions/{question_id}/ask', {
          params: { path: { course, question_id: question } },
          body,
        }),
      ),
    (id) => {
      kept.saved('')
      onSent(id)
    },
  )
  return (
    <form
      className="mt-4 grid gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        send.mutate({
          text,
          to_tutor: toTutor,
          classmates: chosen,
          shows_answer: answer && answered,
          shows_working: working && worked,
        })
      }}
    >
      <Labelled label={t`What don’t you understand? Put formulas between dollar signs: $v = s/t$`}>
        <TextArea
          rows={4}
          required
          maxLength={4000}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </Labelled>
      <fieldset className="grid gap-1.5">
        <legend className="mb-1 text-sm text-ink-2">{t`Who to ask`}</legend>
        {people.tutors.length > 0 && (
          <Check on={toTutor} set={setToTutor}>
            {t`The tutor: ${people.tutors.join(', ')}`}
          </Check>
        )}
        {people.classmates.map(({ id, name }) => (
          <Check
            key={id}
            on={chosen.includes(id)}
            set={(on) => setChosen(on ? [...chosen, id] : chosen.filter((one) => one !== id))}
          >
            {name}
          </Check>
        ))}
      </fieldset>
      <fieldset className="grid gap-1.5">
        <legend className="mb-1 text-sm text-ink-2">{t`What to send with the question`}</legend>
        {answered && <Check on={answer} set={setAnswer}>{t`The answer I gave`}</Check>}
        {worked && <Check on={working} set={setWorking}>{t`My working`}</Check>}
        {!answered && !worked && (
          <p className="text-ink-2">{t`Nothing yet. An answer before your first try counts as help.`}</p>
        )}
      </fieldset>
      <Button
        type="submit"
        kind="strong"
        className="justify-self-start"
        disabled={send.isPending}
      >{t`Ask`}</Button>
      <Problem error={send.error} />
    </form>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Check } from '../../ui/Check'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useKeys } from '../../ui/useKeys'
import { useTitle } from '../../ui/useTitle'
import { CriteriaSheet } from './CriteriaSheet'
import { type Given, MarkPlace } from './MarkPlace'
import { isMarked } from './marks'
import { type Question, questionQuery, undoMark, withPart } from './queries'

/** The answers to one question, one after the other, each with what it is marked by. */
export default function MarkQuestionPage() {
  const { family = '', ...params } = useParams()
  const [hidden, setHidden] = useState(true)
  const group = Number(params.group)
  const assignment = Number(params.assignment)
  const query = useQuery(questionQuery(group, assignment, family, hidden))
  useTitle(t`Marking a question`)
  return (
    <Loaded query={query} what={t`the answers`}>
      {(question) => (
        <Answers
          key={String(hidden)}
          group={group}
          assignment={assignment}
          question={question}
          hidden={hidden}
          onHide={setHidden}
        />
      )}
    </Loaded>
  )
}

interface Props {
  group: number
  assignment: number
  question: Question
  hidden: boolean
  onHide: (hidden: boolean) => void
}

/** Each part of each answer is a place; the first that waits is shown first. */
function Answers({ group, assignment, question, hidden, onHide }: Props) {
  const places = question.answers.flatMap((answer) =>
    answer.parts.map((part) => ({ answer, part })),
  )
  const first = places.findIndex(({ part }) => !isMarked(part, question.role))
  const [at, setAt] = useState(Math.max(0, first))
  const [criteria, setCriteria] = useState(false)
  const place = places[at]
  const step = (by: number) => setAt((at + by + places.length) % places.length)
  const [last, setLast] = useState<Given | null>(null)
  const [again, setAgain] = useState<Given | null>(null)
  const cache = useQueryClient()
  const undo = useMutation({
    mutationFn: (given: Given) => undoMark(group, assignment, given.answer, given.part, given.id),
    onSuccess: (marked, given) => {
      cache.setQueryData<Question>(
        keys.markingQuestion(group, assignment, question.family, hidden),
        (now) => now && withPart(now, marked),
      )
      void cache.invalidateQueries({ queryKey: keys.markingOf(group, assignment), exact: true })
      setLast(null)
      setAgain(given)
      setAt(
        places.findIndex(
          (one) => one.answer.answer === given.answer && one.part.part === given.part,
        ),
      )
    },
  })
  useKeys({
    n: () => step(1),
    p: () => step(-1),
    u: last && !undo.isPending ? () => undo.mutate(last) : undefined,
  })
  if (!place) return null
  const marked = places.filter(({ part }) => isMarked(part, question.role)).length
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={`/tutor/work/${group}/${assignment}/marking`}>
        {t`Marking of ${question.test}`}
      </TextLink>
      <div className="mt-1 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <h1 className="text-3xl">{question.title}</h1>
        <div className="flex flex-wrap items-center gap-x-4">
          <Check on={hidden} set={onHide}>{t`names hidden`}</Check>
          <Button kind="quiet" onClick={() => setCriteria(true)}>{t`Criteria`}</Button>
        </div>
      </div>
      <p className="mt-1 text-ink-2" aria-live="polite">
        {t`Answer ${at + 1} of ${places.length}`}
        {place.answer.name && `, ${place.answer.name}`}
        {t`; ${marked} marked.`}
      </p>
      {last && (
        <p role="status" className="mt-2 flex flex-wrap items-center gap-x-3">
          {t`Saved: ${last.says}.`}
          <Button
            kind="quiet"
            hint="U"
            disabled={undo.isPending}
            onClick={() => undo.mutate(last)}
          >{t`Undo`}</Button>
        </p>
      )}
      <Problem error={undo.error} />
      <MarkPlace
        key={`${place.answer.answer}-${place.part.part}-${place.part.latest}`}
        group={group}
        assignment={assignment}
        family={question.family}
        hidden={hidden}
        role={question.role}
        answer={place.answer}
        part={place.part}
        again={
          again?.answer === place.answer.answer && again.part === place.part.part
            ? again.mark
            : null
        }
        onKept={(given) => {
          setLast(given)
          setAgain(null)
        }}
        onNext={() => step(1)}
        onPrevious={() => step(-1)}
      />
      {criteria && (
        <CriteriaSheet
          group={group}
          assignment={assignment}
          question={question}
          part={place.part}
          onClose={() => setCriteria(false)}
        />
      )}
    </main>
  )
}

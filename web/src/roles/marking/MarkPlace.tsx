import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Suspense, useState } from 'react'
import { useKept } from '../../account/useKept'
import { ApiError } from '../../api/client'
import { keys } from '../../api/keys'
import { Files } from '../../files/lazily'
import { PaperWorking } from '../../files/PaperWorking'
import { QuestionView } from '../../player/QuestionView'
import { WorkingShown } from '../../player/WorkingShown'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { KeptNote } from '../../ui/KeptNote'
import { useKeys } from '../../ui/useKeys'
import { MarkForm } from './MarkForm'
import { type Mark, markOf, type Role, sumOf } from './marks'
import { type Answer, markPart, type Part, type Question, withPart } from './queries'

interface Props {
  group: number
  assignment: number
  family: string
  hidden: boolean
  role: Role
  answer: Answer
  part: Part
  /** What was just undone here: it stands in the form again. */
  again: Mark | null
  onKept: (given: Given) => void
  onNext: () => void
  onPrevious: () => void
}

/** A mark that was kept last, so that it can be undone. */
export interface Given {
  answer: number
  part: string
  id: number
  mark: Mark
  says: string
}

/** One part of one answer with the form of its marks. */
export function MarkPlace(props: Props) {
  const { group, assignment, family, hidden, answer, part, again, onKept, onNext, onPrevious } =
    props
  const both = part.first !== null && part.second !== null
  const settling = both && (part.differ || part.agreed !== null) && props.role === 'first'
  const role: Role = settling ? 'agreed' : props.role
  const place = `mark:${answer.answer}:${part.part}:${role}`
  const kept = useKept<Mark>(place, () => again ?? markOf(part, role))
  const { value: mark, set: setMark } = kept
  const [asked, setAsked] = useState(false)
  const cache = useQueryClient()
  const keep = useMutation({
    mutationFn: () =>
      markPart(group, assignment, answer.answer, part.part, {
        role,
        points: mark.points as Record<string, string>,
        comment: mark.comment,
        notes: mark.notes,
        after: part.latest,
      }),
    onSuccess: (marked) => {
      kept.saved(mark)
      void cache.invalidateQueries({ queryKey: keys.marking, exact: true })
      void cache.invalidateQueries({ queryKey: keys.markingOf(group, assignment), exact: true })
      cache.setQueryData<Question>(
        keys.markingQuestion(group, assignment, family, hidden),
        (question) => question && withPart(question, marked),
      )
      const given = marked.part[role]
      if (given)
        onKept({
          answer: answer.answer,
          part: part.part,
          id: given.id,
          mark,
          says: t`${given.reached} of ${part.of} points`,
        })
      onNext()
    },
    onError: (error) => {
      if (error instanceof ApiError && error.code === 'marked_elsewhere')
        void cache.invalidateQueries({
          queryKey: keys.markingQuestion(group, assignment, family, hidden),
        })
    },
  })
  const pageAt = (page: number) =>
    `/api/groups/${group}/tests/${assignment}/sitting/${answer.attempt}/pages/${page}`
  const files = { whose: { enrolment: answer.enrolment }, question: answer.question.id }
  const complete = part.criteria.length > 0 || mark.points[0] !== undefined
  const toggle = (n: number) => () => {
    const criterion = part.criteria[n]
    if (!criterion) return
    const points = { ...mark.points }
    if (Number(points[n]) === criterion.points) delete points[n]
    else points[n] = String(criterion.points)
    setMark({ ...mark, points })
  }
  const nothing = Object.keys(mark.points).length === 0
  /** Nothing ticked is 0 points: that is asked about once, so that a key pressed too soon is none. */
  const keepIt = () => {
    if (nothing && !asked) return setAsked(true)
    keep.mutate()
  }
  useKeys({
    k: () => complete && !keep.isPending && keepIt(),
    ...Object.fromEntries(part.criteria.slice(0, 9).map((_, n) => [String(n + 1), toggle(n)])),
  })
  return (
    <div className="mt-5 grid gap-x-12 gap-y-8 @5xl:grid-cols-[minmax(0,1fr)_26rem]">
      <section aria-label={t`The answer`} className="min-w-0">
        <div inert>
          <QuestionView
            question={answer.question}
            responses={answer.responses}
            onChange={() => undefined}
          />
        </div>
        {answer.pages.length > 0 && (
          <ul className="mt-4 flex flex-wrap gap-4">
            {answer.pages.map((page, n) => (
              <li key={page}>
                <a href={pageAt(page)} target="_blank" rel="noreferrer">
                  <img
                    src={pageAt(page)}
                    alt={t`Page ${n + 1} of the answer`}
                    className="max-h-[34rem] rounded-box border border-line"
                  />
                </a>
              </li>
            ))}
          </ul>
        )}
        {answer.sheet !== null && answer.pages.length === 0 && (
          <p className="mt-3 text-part">{t`On sheet ${answer.sheet}, but there is no page for it.`}</p>
        )}
        {answer.question.parts
          .filter((one) => one.kind === 'upload')
          .map((one) => (
            <Suspense key={one.id}>
              <h3 className="mt-4 mb-2 font-semibold">{one.label || t`Files`}</h3>
              <Files at={files} part={one.id} />
            </Suspense>
          ))}
        {answer.working && <WorkingShown working={answer.working} />}
        <PaperWorking at={files} />
      </section>
      <section aria-label={t`Marks`}>
        {both && <BothGave part={part} settling={settling} />}
        <Adjusted part={part} />
        <KeptNote restored={kept.restored} onDiscard={kept.discard} />
        <MarkForm part={part} mark={mark} place={place} onChange={setMark} />
        {nothing && asked && (
          <p
            role="status"
            className="mt-2 text-part"
          >{t`Nothing is ticked, so this gives 0 points. Press K or the button again to save.`}</p>
        )}
        <Problem error={keep.error} />
        <div className="mt-4 flex flex-wrap gap-2">
          <Button kind="strong" disabled={!complete || keep.isPending} onClick={keepIt}>
            {nothing && asked
              ? t`Give 0 points`
              : settling
                ? t`Mark as answered`
                : t`Save and next`}
          </Button>
          <Button onClick={onPrevious}>{t`Previous`}</Button>
          <Button onClick={onNext}>{t`Next`}</Button>
        </div>
        <p className="mt-2 text-sm text-ink-2">
          {t`Shortcuts: 1 to 9 award a criterion, K save and next, U undo, N next, P previous.`}
          {answer.out &&
            t` These marks are released. If you change one, the learner sees it once you release it again.`}
        </p>
        <p className="sr-only" aria-live="polite">
          {sumOf(mark.points)} {t`of ${part.of} points`}
        </p>
      </section>
    </div>
  )
}

/** Whose points were adjusted afterwards, by whom and why. */
function Adjusted({ part }: { part: Part }) {
  const says = (part.agreed ?? part.first)?.adjusted
  return says ? <p className="mb-3 text-part">{says}</p> : null
}

function BothGave({ part, settling }: { part: Part; settling: boolean }) {
  return (
    <p className={`mb-3 ${settling && part.differ ? 'text-part' : 'text-ink-2'}`}>
      {part.first?.by} {t`gave`} {part.first?.reached}, {part.second?.by} {t`gave`}{' '}
      {part.second?.reached}
      {t`, of ${part.of} points.`}
      {settling && part.differ && t` Agree on a mark.`}
      {part.agreed && t` Agreed: ${part.agreed.reached}.`}
    </p>
  )
}

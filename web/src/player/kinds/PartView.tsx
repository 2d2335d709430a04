import { t } from '@lingui/core/macro'
import { Suspense } from 'react'
import type { Part, PartState } from '../../api/client'
import { type ReadBack, ReadBackNote } from '../readBack'
import { viewOf } from './registry'
import type { Kind, PartProps } from './view'

interface Props extends Omit<PartProps<Kind>, 'part' | 'state' | 'review' | 'noteId' | 'viewOf'> {
  part: Part
  state: PartState
  /** Where it is said how what is typed was read. */
  note?: { id: string; read?: ReadBack }
}

/** A part to be answered, or one that was. What drags is loaded when it is first wanted. */
export function PartView({ part, state, note, ...rest }: Props) {
  const { Answer, Review } = viewOf(part)
  const review = state.state === 'open' ? null : <Review part={part} state={state} />
  return (
    <Suspense fallback={<p className="mt-5 text-ink-2">{t`Loading…`}</p>}>
      <Answer
        part={part}
        state={state}
        review={review}
        noteId={note?.id}
        viewOf={viewOf}
        {...rest}
      />
      {note && <ReadBackNote id={note.id} value={rest.value} read={note.read} />}
    </Suspense>
  )
}

/** A part on paper, with what came of it. */
export function PrintedPart({
  part,
  state,
  value,
}: {
  part: Part
  state: PartState
  value: string
}) {
  const { Printed, Review } = viewOf(part)
  return (
    <section aria-label={part.label || t`Answer`} className="mt-5">
      {part.label && <h3 className="mb-1.5 font-semibold">{part.label}</h3>}
      <Printed part={part} state={state} value={value} viewOf={viewOf} />
      {state.state !== 'open' && <Review part={part} state={state} />}
    </section>
  )
}

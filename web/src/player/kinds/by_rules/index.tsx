import { t } from '@lingui/core/macro'
import type { PartState } from '../../../api/client'
import { PartGroup } from '../shared/PartGroup'
import { PiecesReview } from '../shared/reviews'
import type { KindView, PartProps, PrintedProps } from '../view'

/** A quoted text, "" for what is none. */
function textOf(quoted: string): string {
  try {
    const said: unknown = JSON.parse(quoted)
    return typeof said === 'string' ? said : ''
  } catch (error) {
    if (error instanceof SyntaxError) return ''
    throw error
  }
}

/** Answers by part: a line of `id "answer"` for each. */
function split(value: string): Record<string, string> {
  const found: Record<string, string> = {}
  for (const line of value.split('\n')) {
    const at = line.indexOf(' ')
    const said = at > 0 && textOf(line.slice(at + 1))
    if (said) found[line.slice(0, at)] = said
  }
  return found
}

const joined = (answers: Record<string, string>) =>
  Object.entries(answers)
    .filter(([, text]) => text.trim())
    .map(([id, text]) => `${id} ${JSON.stringify(text)}`)
    .join('\n')

/** An inner part while the whole is open, or as it was given. */
const inner = (state: PartState): PartState => ({
  ...state,
  state: state.state === 'open' ? 'open' : 'given',
  pieces: [],
  right_points: [],
  right_answer: null,
  says: null,
})

/** Several answers that are marked together, each taken as its own kind takes it. */
function Answer({ part, state, value, onChange, review, viewOf }: PartProps<'by_rules'>) {
  const answers = split(value)
  const open = state.state === 'open'
  const done = part.parts.filter(({ id }) => answers[id]?.trim()).length
  return (
    <PartGroup
      label={part.label}
      closed={!open}
      note={open ? t`${done} of ${part.parts.length} answered` : null}
      review={review}
    >
      {part.parts.map((one) => {
        const { Answer: Inner } = viewOf(one)
        return (
          <Inner
            key={one.id}
            part={one}
            state={inner(state)}
            value={answers[one.id] ?? ''}
            onChange={(text) => onChange(joined({ ...answers, [one.id]: text }))}
            keys={false}
            review={null}
            viewOf={viewOf}
          />
        )
      })}
    </PartGroup>
  )
}

function Printed({ part, state, value, viewOf }: PrintedProps<'by_rules'>) {
  const answers = split(value)
  return (
    <>
      {part.parts.map((one) => {
        const { Printed: Inner } = viewOf(one)
        return (
          <div key={one.id} className="mb-2">
            {one.label && <p>{one.label}</p>}
            <Inner part={one} state={inner(state)} value={answers[one.id] ?? ''} viewOf={viewOf} />
          </div>
        )
      })}
    </>
  )
}

export const byRules: KindView<'by_rules'> = {
  Answer,
  Review: ({ state }) => <PiecesReview state={state} />,
  Printed,
}

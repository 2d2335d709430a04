import type { ReactNode } from 'react'
import type { PartState } from '../../../api/client'
import { Sign } from '../../../ui/Sign'

/** A group of controls that answer one part, with its sign once it is closed. */
export function PartGroup({
  label,
  state,
  note,
  signed = false,
  children,
}: {
  label: string
  state: PartState
  note?: ReactNode
  /** Whether the sign stands beside what was chosen, and need not stand below too. */
  signed?: boolean
  children: ReactNode
}) {
  const closed = state.state !== 'open'
  return (
    <fieldset className="mt-5 min-w-0" disabled={closed}>
      <legend className={label ? 'mb-1.5 font-semibold' : 'sr-only'}>
        {label || 'Your answer'}
      </legend>
      {children}
      <div aria-live="polite" className="mt-1.5 min-h-6 text-sm text-ink-2">
        {note}
      </div>
      {closed && <Outcome state={state} signed={signed} />}
    </fieldset>
  )
}

const SIGNS = {
  right: 'right',
  noted: 'note',
  closed: 'wrong',
  unanswered: 'note',
  given: 'note',
  open: 'note',
} as const

/** What came of a closed part: each pair, cell, gap or point, given beside right. */
function Outcome({ state, signed }: { state: PartState; signed: boolean }) {
  const unanswered = state.state === 'unanswered'
  const partly = state.state === 'closed' && state.share > 0
  if (state.state === 'given') return null
  if (state.state === 'noted')
    return state.right_answer ? (
      <p className="mt-2 max-w-[42rem]">
        <span className="font-semibold">A good answer: </span>
        {state.right_answer}
      </p>
    ) : null
  if (state.pieces.length > 0)
    return (
      <table className="mt-2 max-w-3xl text-left">
        <thead className="text-sm text-ink-2">
          <tr>
            <td />
            {!unanswered && (
              <th scope="col" className="py-1 pr-6 font-normal">
                You said
              </th>
            )}
            <th scope="col" className="py-1 font-normal">
              It is
            </th>
          </tr>
        </thead>
        <tbody>
          {state.pieces.map((piece, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no identity but their place
            <tr key={i} className="border-t border-line">
              <th scope="row" className="py-1.5 pr-6 font-normal text-ink-2">
                {piece.label}
              </th>
              {!unanswered && (
                <td className="py-1.5 pr-6">
                  <span className="inline-flex items-center gap-2">
                    <Sign kind={piece.ok ? 'right' : 'wrong'} size={18} />
                    {piece.given}
                  </span>
                </td>
              )}
              <td className="py-1.5 font-semibold">{piece.right}</td>
            </tr>
          ))}
        </tbody>
      </table>
    )
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-2">
      {!(signed && state.answer) && (
        <Sign kind={partly ? 'partly' : SIGNS[state.state]} word={!unanswered} />
      )}
      {unanswered && <span className="whitespace-nowrap">Not answered.</span>}
      {state.state !== 'right' && state.right_answer && (
        <span>
          It is <strong>{state.right_answer}</strong>
        </span>
      )}
    </p>
  )
}

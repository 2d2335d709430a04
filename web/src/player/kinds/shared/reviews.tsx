import { t } from '@lingui/core/macro'
import type { PartState } from '../../../api/client'
import { Sign } from '../../../ui/Sign'

const SIGNS = {
  right: 'right',
  noted: 'note',
  closed: 'wrong',
  unanswered: 'note',
  given: 'note',
  open: 'note',
} as const

/** An answer in one piece: right or wrong, and what it is. signed: whether the sign stands beside
 * what was chosen, and need not stand here too. */
export function WholeReview({ state, signed = false }: { state: PartState; signed?: boolean }) {
  if (state.state === 'given') return null
  const unanswered = state.state === 'unanswered'
  const partly = state.state === 'closed' && state.share > 0
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-2">
      {!(signed && state.answer) && (
        <Sign kind={partly ? 'partly' : SIGNS[state.state]} word={!unanswered} />
      )}
      {unanswered && <span className="whitespace-nowrap">{t`Not answered.`}</span>}
      {state.state !== 'right' && state.right_answer && (
        <span>
          {t`It is`} <strong>{state.right_answer}</strong>
        </span>
      )}
    </p>
  )
}

/** An answer of several pieces: each given beside right, as far as that may be told. */
export function PiecesReview({ state }: { state: PartState }) {
  if (state.pieces.length === 0) return <WholeReview state={state} />
  const answered = state.state !== 'unanswered'
  return (
    <table className="mt-2 max-w-3xl text-left">
      <thead className="text-sm text-ink-2">
        <tr>
          <td />
          {answered && <th scope="col" className="py-1 pr-6 font-normal">{t`Your answer`}</th>}
          <th scope="col" className="py-1 font-normal">{t`Right answer`}</th>
        </tr>
      </thead>
      <tbody>
        {state.pieces.map((piece, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no identity but their place
          <tr key={i} className="border-t border-line">
            <th scope="row" className="py-1.5 pr-6 font-normal text-ink-2">
              {piece.label}
            </th>
            {answered && (
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
}

/** An answer that no rule marks: a good one to compare it with. */
export function ModelReview({ state }: { state: PartState }) {
  if (state.state !== 'noted') return <WholeReview state={state} />
  if (!state.right_answer) return null
  return (
    <p className="mt-2 max-w-[42rem]">
      <span className="font-semibold">{t`A good answer:`} </span>
      {state.right_answer}
    </p>
  )
}

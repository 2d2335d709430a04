import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import { Html } from '../../../ui/Html'
import { pairsOf } from '../../values'

type Slots = Pick<Schemas['SlotsPartOut'], 'tokens'>

/** The words of the token that was put into a slot. */
export const tokenIn = (part: Slots, value: string, slot: string) =>
  part.tokens.find((token) => token.id === pairsOf(value).get(slot))?.html ?? ''

/** The tokens to choose from, on paper. */
export function PaperTokens({ part }: { part: Slots }) {
  return (
    <ul aria-label={t`To put in`} className="mb-3 flex flex-wrap gap-x-6 gap-y-1">
      {part.tokens.map((token) => (
        <li key={token.id} className="border border-ink px-2">
          <Html html={token.html} inline />
        </li>
      ))}
    </ul>
  )
}

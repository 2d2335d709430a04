import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'
import { pairsOf } from '../../values'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'
import { TokenBoard } from './TokenBoard'

export type SlotKind = 'match' | 'gap_match' | 'graphic_gap_match'

/** A board of tokens with the places that they go to, of whatever look. */
export function SlotsGroup({
  part,
  state,
  value,
  onChange,
  review,
  children,
}: Pick<PartProps<SlotKind>, 'part' | 'state' | 'value' | 'onChange' | 'review'> & {
  children: ReactNode
}) {
  const closed = state.state !== 'open'
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      note={closed ? null : t`${pairsOf(value).size} of ${part.slots.length} filled`}
      review={review}
    >
      <TokenBoard part={part} value={value} onChange={onChange} closed={closed}>
        {children}
      </TokenBoard>
    </PartGroup>
  )
}

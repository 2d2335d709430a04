import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import { fromPairs, pairsOf, plain } from '../../values'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

/** QTI inline choice interaction: drop-downs in a text. */
export function Answer({ review, part, state, value, onChange }: PartProps<'inline_choice'>) {
  const chosen = pairsOf(value)
  const closed = state.state !== 'open'
  const names = new Map(part.tokens.map((token) => [token.id, plain(token.html)]))
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      review={review}
      note={closed ? null : t`${chosen.size} of ${part.slots.length} chosen`}
    >
      <p className="max-w-[42rem] rounded-box bg-sheet px-5 py-4 text-[1.1rem] leading-[2.6]">
        {part.text.map((text, i) => {
          const slot = part.slots[i]
          return (
            <span key={slot?.id ?? 'end'}>
              <Html html={text} inline />
              {slot && (
                <select
                  aria-label={t`Gap ${i + 1}`}
                  value={chosen.get(slot.id) ?? ''}
                  onChange={(event) => {
                    const next = new Map(chosen)
                    if (event.target.value) next.set(slot.id, event.target.value)
                    else next.delete(slot.id)
                    onChange(fromPairs(next))
                  }}
                  className="min-h-10 rounded-lg border-2 border-edge bg-sheet px-2 py-1"
                >
                  <option value="">{t`choose`}</option>
                  {(slot.offers.length ? slot.offers : [...names.keys()]).map((id) => (
                    <option key={id} value={id}>
                      {names.get(id)}
                    </option>
                  ))}
                </select>
              )}
            </span>
          )
        })}
      </p>
    </PartGroup>
  )
}

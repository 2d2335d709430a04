import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import { pairsOf } from '../../values'
import type { PrintedProps } from '../view'

/** The text with all that each gap offers, what was chosen underlined. */
export function Printed({ part, value }: PrintedProps<'inline_choice'>) {
  const chosen = pairsOf(value)
  const html = new Map(part.tokens.map((token) => [token.id, token.html]))
  return (
    <p className="max-w-[42rem] leading-[2]">
      {part.text.map((text, i) => {
        const slot = part.slots[i]
        return (
          <span key={slot?.id ?? 'end'}>
            <Html html={text} inline />
            {slot && '['}
            {slot?.offers.map((id, place) => (
              <span key={id}>
                {place > 0 && ' / '}
                <span
                  className={
                    chosen.get(slot.id) === id
                      ? 'border-ink border-b-4 border-double font-semibold'
                      : ''
                  }
                >
                  <Html html={html.get(id) ?? ''} inline />
                </span>
                {chosen.get(slot.id) === id && <span className="sr-only">{t`, chosen`}</span>}
              </span>
            ))}
            {slot && ']'}
          </span>
        )
      })}
    </p>
  )
}

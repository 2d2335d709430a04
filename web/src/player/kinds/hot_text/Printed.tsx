import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import { linesOf } from '../../values'
import type { PrintedProps } from '../view'

/** The text with its words to underline, those chosen underlined twice. */
export function Printed({ part, value }: PrintedProps<'hot_text'>) {
  const chosen = linesOf(value)
  return (
    <p className="max-w-[42rem] leading-[2]">
      {part.text.map((text, i) => {
        const choice = part.choices[i]
        return (
          <span key={choice?.id ?? 'end'}>
            <Html html={text} inline />
            {choice && (
              <span
                className={
                  chosen.includes(choice.id)
                    ? 'border-ink border-b-4 border-double font-semibold'
                    : 'border-ink border-b border-dotted'
                }
              >
                <Html html={choice.html} inline />
                {chosen.includes(choice.id) && <span className="sr-only">{t`, chosen`}</span>}
              </span>
            )}
          </span>
        )
      })}
    </p>
  )
}

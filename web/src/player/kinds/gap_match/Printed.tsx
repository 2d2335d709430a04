import { Html } from '../../../ui/Html'
import { PaperLine } from '../shared/paper'
import { PaperTokens, tokenIn } from '../slots/paper'
import type { PrintedProps } from '../view'

/** The text with what was put into its gaps. */
export function Printed({ part, value }: PrintedProps<'gap_match'>) {
  return (
    <>
      <PaperTokens part={part} />
      <p className="max-w-[42rem] leading-[2]">
        {part.text.map((text, i) => {
          const slot = part.slots[i]
          return (
            <span key={slot?.id ?? 'end'}>
              <Html html={text} inline />
              {slot && <PaperLine given={<Html html={tokenIn(part, value, slot.id)} inline />} />}
            </span>
          )
        })}
      </p>
    </>
  )
}

import { Html } from '../../../ui/Html'
import { PaperLine } from '../shared/paper'
import { PaperTokens, tokenIn } from '../slots/paper'
import type { PrintedProps } from '../view'

/** What is on the left with what was put beside it. */
export function Printed({ part, value }: PrintedProps<'match' | 'graphic_gap_match'>) {
  return (
    <>
      <PaperTokens part={part} />
      <ol className="grid max-w-[42rem] gap-1.5">
        {part.slots.map((slot, i) => (
          <li key={slot.id} className="grid grid-cols-2 gap-4">
            <span>
              {part.figure && `${i + 1} `}
              <Html html={slot.html} inline />
            </span>
            <PaperLine given={<Html html={tokenIn(part, value, slot.id)} inline />} wide />
          </li>
        ))}
      </ol>
    </>
  )
}

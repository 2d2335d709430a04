import { Html } from '../../../ui/Html'
import { linesOf } from '../../values'
import { PaperLine } from '../shared/paper'
import type { PrintedProps } from '../view'

/** The items in the order that was given, or in the one they are shown in with room for a number. */
export function Printed({ part, value }: PrintedProps<'order'>) {
  const given = linesOf(value)
  const order = given.length ? given : part.items.map((item) => item.id)
  return (
    <ol className="grid gap-1.5">
      {order.map((id, i) => (
        <li key={id} className="flex gap-3">
          {given.length ? (
            <span className="w-6 font-semibold tabular-nums">{i + 1}</span>
          ) : (
            <PaperLine given="" />
          )}
          <Html html={part.items.find((item) => item.id === id)?.html ?? ''} inline />
        </li>
      ))}
    </ol>
  )
}

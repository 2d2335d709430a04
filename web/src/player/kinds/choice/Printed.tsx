import { Html } from '../../../ui/Html'
import { linesOf } from '../../values'
import { PaperBox } from '../shared/paper'
import type { PrintedProps } from '../view'

/** Choices with boxes to cross. */
export function Printed({ part, value }: PrintedProps<'choice'>) {
  const chosen = linesOf(value)
  return (
    <ul className="grid gap-1.5">
      {part.choices.map((choice) => (
        <li key={choice.id} className="flex items-start gap-3">
          <PaperBox chosen={chosen.includes(choice.id)} round={part.choose === 1} />
          <Html html={choice.html} inline className="flex-1" />
        </li>
      ))}
    </ul>
  )
}

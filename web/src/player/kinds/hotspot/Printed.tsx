import { Html } from '../../../ui/Html'
import { linesOf } from '../../values'
import { PrintedFigureWith, RegionShape } from '../shared/FigureWith'
import { PaperBox } from '../shared/paper'
import type { PrintedProps } from '../view'

/** The figure with its places, and their names with boxes to cross. */
export function Printed({ part, value }: PrintedProps<'hotspot'>) {
  const chosen = linesOf(value)
  return (
    <>
      {part.figure && (
        <PrintedFigureWith figure={part.figure}>
          {part.choices.map(
            (choice) =>
              choice.region && (
                <g key={choice.id}>
                  <RegionShape region={choice.region} chosen={chosen.includes(choice.id)} />
                </g>
              ),
          )}
        </PrintedFigureWith>
      )}
      <ul className="mt-3 flex flex-wrap gap-x-6 gap-y-1.5">
        {part.choices.map((choice) => (
          <li key={choice.id} className="flex items-center gap-2">
            <PaperBox chosen={chosen.includes(choice.id)} round={part.choose === 1} />
            <Html html={choice.html} inline />
          </li>
        ))}
      </ul>
    </>
  )
}

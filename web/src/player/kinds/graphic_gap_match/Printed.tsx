import { Printed as PrintedPairs } from '../match/Printed'
import { PrintedFigureWith, RegionShape } from '../shared/FigureWith'
import type { PrintedProps } from '../view'
import { PlaceNumber } from './PlaceNumber'

/** The figure with its places numbered, and what was put at each number. */
export function Printed(props: PrintedProps<'graphic_gap_match'>) {
  const { part } = props
  return (
    <>
      {part.figure && (
        <PrintedFigureWith figure={part.figure}>
          {part.slots.map(
            (slot, i) =>
              slot.region && (
                <g key={slot.id}>
                  <RegionShape region={slot.region} chosen={false} />
                  <PlaceNumber region={slot.region} number={i + 1} />
                </g>
              ),
          )}
        </PrintedFigureWith>
      )}
      <PrintedPairs {...props} />
    </>
  )
}

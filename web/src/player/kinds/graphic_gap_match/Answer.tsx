import { pairsOf, plain } from '../../values'
import { FigureWith, RegionShape } from '../shared/FigureWith'
import { SlotsGroup } from '../slots/SlotsGroup'
import { SlotButton } from '../slots/TokenBoard'
import type { PartProps } from '../view'
import { PlaceNumber } from './PlaceNumber'

/** QTI graphic gap match interaction: places on a figure. */
export default function Answer(props: PartProps<'graphic_gap_match'>) {
  return (
    <SlotsGroup {...props}>
      <OnFigure part={props.part} filled={pairsOf(props.value)} />
    </SlotsGroup>
  )
}

function OnFigure({
  part,
  filled,
}: Pick<PartProps<'graphic_gap_match'>, 'part'> & { filled: Map<string, string> }) {
  return (
    <div className="grid gap-4 @4xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      {part.figure && (
        <FigureWith figure={part.figure}>
          {part.slots.map(
            (slot, i) =>
              slot.region && (
                <g key={slot.id}>
                  <RegionShape region={slot.region} chosen={filled.has(slot.id)} />
                  <PlaceNumber region={slot.region} number={i + 1} />
                </g>
              ),
          )}
        </FigureWith>
      )}
      <ol className="grid content-start gap-2">
        {part.slots.map((slot, i) => (
          <li key={slot.id} className="grid grid-cols-[1.500rem_1fr] items-center gap-2">
            <span className="font-semibold">{i + 1}</span>
            <SlotButton id={slot.id} name={plain(slot.html)} wide />
          </li>
        ))}
      </ol>
    </div>
  )
}

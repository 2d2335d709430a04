import { Html } from '../../../ui/Html'
import { plain } from '../../values'
import { SlotsGroup } from '../slots/SlotsGroup'
import { SlotButton } from '../slots/TokenBoard'
import type { PartProps } from '../view'

/** QTI match interaction: pairs. */
export default function Answer(props: PartProps<'match'>) {
  return (
    <SlotsGroup {...props}>
      <Pairs part={props.part} />
    </SlotsGroup>
  )
}

function Pairs({ part }: Pick<PartProps<'match'>, 'part'>) {
  return (
    <ul className="grid max-w-[45rem] gap-2">
      {part.slots.map((slot) => (
        <li key={slot.id} className="grid grid-cols-2 items-center gap-4">
          <Html html={slot.html} inline className="text-[1.05rem]" />
          <SlotButton id={slot.id} name={plain(slot.html)} wide />
        </li>
      ))}
    </ul>
  )
}

import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import { SlotsGroup } from '../slots/SlotsGroup'
import { SlotButton } from '../slots/TokenBoard'
import type { PartProps } from '../view'

/** QTI gap match interaction: gaps in a text. */
export default function Answer(props: PartProps<'gap_match'>) {
  return (
    <SlotsGroup {...props}>
      <Gaps part={props.part} />
    </SlotsGroup>
  )
}

function Gaps({ part }: Pick<PartProps<'gap_match'>, 'part'>) {
  return (
    <p className="max-w-[42rem] rounded-box bg-sheet px-5 py-4 text-[1.1rem] leading-[2.6]">
      {part.text.map((text, i) => {
        const slot = part.slots[i]
        return (
          <span key={slot?.id ?? 'end'}>
            <Html html={text} inline />
            {slot && <SlotButton id={slot.id} name={t`Gap ${i + 1}`} />}
          </span>
        )
      })}
    </p>
  )
}

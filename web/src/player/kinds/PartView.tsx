import { lazy, Suspense } from 'react'
import type { Part, PartState } from '../../api/client'
import { AssociatePart } from './associate/Answer'
import { ChoicePart } from './choice/Answer'
import { DrawingPart } from './drawing/Answer'
import { WrittenPart } from './extended_text/Answer'
import { ShadingPart } from './grid_shading/Answer'
import { HotTextPart } from './hot_text/Answer'
import { HotspotPart } from './hotspot/Answer'
import { InlineChoicePart } from './inline_choice/Answer'
import { loadOrder, loadPoints, loadSlots } from './shared/loading'
import type { Strike } from './shared/types'
import { SliderPart } from './slider/Answer'
import { TablePart } from './table_entry/Answer'
import { TextEntryPart } from './text_entry/Answer'

const SlotsPart = lazy(loadSlots)
const OrderPart = lazy(loadOrder)
const PointsPart = lazy(loadPoints)

interface Props {
  part: Part
  state: PartState
  value: string
  onChange: (value: string) => void
  keys: boolean
  fieldRef?: (node: HTMLInputElement | null) => void
  strike?: Strike
}

/** The component of a part's kind. What drags is loaded when it is first wanted. */
export function PartView(props: Props) {
  return (
    <Suspense fallback={<p className="mt-5 text-ink-2">Loading this part…</p>}>
      <Kind {...props} />
    </Suspense>
  )
}

function Kind({ part, ...rest }: Props) {
  switch (part.kind) {
    case 'choice':
      return <ChoicePart part={part} {...rest} />
    case 'hot_text':
      return <HotTextPart part={part} {...rest} />
    case 'hotspot':
      return <HotspotPart part={part} {...rest} />
    case 'text_entry':
      return <TextEntryPart part={part} {...rest} />
    case 'slider':
      return <SliderPart part={part} {...rest} />
    case 'order':
      return <OrderPart part={part} {...rest} />
    case 'inline_choice':
      return <InlineChoicePart part={part} {...rest} />
    case 'match':
    case 'gap_match':
    case 'graphic_gap_match':
      return <SlotsPart part={part} {...rest} />
    case 'associate':
      return <AssociatePart part={part} {...rest} />
    case 'table_entry':
      return <TablePart part={part} {...rest} />
    case 'select_point':
    case 'position_object':
    case 'graph':
      return <PointsPart part={part} {...rest} />
    case 'grid_shading':
      return <ShadingPart part={part} {...rest} />
    case 'drawing':
      return <DrawingPart part={part} {...rest} />
    case 'extended_text':
    case 'upload':
      return <WrittenPart part={part} {...rest} />
  }
}

import { DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import {
  arrayMove,
  SortableContext,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { t } from '@lingui/core/macro'
import { ArrowDown, ArrowUp, GripVertical } from 'lucide-react'
import { useEffect, useId, useRef } from 'react'
import type { Schemas } from '../../../api/client'
import { Html } from '../../../ui/Html'
import { linesOf, plain } from '../../values'
import { PartGroup } from '../shared/PartGroup'
import { spokenDrag } from '../shared/spoken'
import type { PartProps } from '../view'

/** QTI order interaction: drag, or move with the arrows beside each item. */
export default function Answer({ review, part, state, value, onChange }: PartProps<'order'>) {
  const closed = state.state !== 'open'
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  const order = linesOf(value).length ? linesOf(value) : part.items.map((item) => item.id)
  const items = order.flatMap((id) => part.items.find((item) => item.id === id) ?? [])
  const focus = useRef<string | null>(null)
  const name = useId()
  const move = (from: number, to: number, key: string) => {
    if (to < 0 || to >= order.length) return
    focus.current = key
    onChange(arrayMove(order, from, to).join('\n'))
  }
  useEffect(() => {
    if (focus.current) document.getElementById(focus.current)?.focus()
    focus.current = null
  })
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      review={review}
      note={closed ? null : value ? t`First at the top` : t`Move the items, first at the top`}
    >
      <DndContext
        sensors={sensors}
        accessibility={{
          announcements: spokenDrag((id) => plain(part.items.find((i) => i.id === id)?.html ?? '')),
          screenReaderInstructions: { draggable: '' },
        }}
        onDragEnd={({ active, over }) => {
          if (over && active.id !== over.id)
            move(order.indexOf(String(active.id)), order.indexOf(String(over.id)), '')
        }}
      >
        <SortableContext items={order} strategy={verticalListSortingStrategy}>
          <ol className="grid max-w-[40rem] gap-2">
            {items.map((item, i) => (
              <Row
                key={item.id}
                item={item}
                place={i}
                count={items.length}
                closed={closed}
                name={`${name}${part.id}`}
                onMove={move}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {!closed && !value && (
        <button
          type="button"
          className="mt-2 min-h-10 text-gust hover:underline"
          onClick={() => onChange(order.join('\n'))}
        >{t`Leave it in this order`}</button>
      )}
    </PartGroup>
  )
}

function Row({
  item,
  place,
  count,
  closed,
  name,
  onMove,
}: {
  item: Schemas['TokenOut']
  place: number
  count: number
  closed: boolean
  name: string
  onMove: (from: number, to: number, key: string) => void
}) {
  const { setNodeRef, listeners, transform, transition } = useSortable({ id: item.id })
  const key = `${name}-${item.id}`
  const text = plain(item.html)
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined,
        transition,
      }}
      className="flex items-center gap-3 rounded-box border-2 border-line bg-sheet px-3 py-2"
    >
      {!closed && (
        <span {...listeners} className="cursor-grab touch-none text-ink-3" aria-hidden="true">
          <GripVertical size={20} />
        </span>
      )}
      <span className="w-5 font-semibold tabular-nums">{place + 1}</span>
      <Html html={item.html} inline className="flex-1" />
      {!closed && (
        <>
          <button
            type="button"
            id={`${key}-up`}
            aria-label={t`Move ${text} up, now ${place + 1} of ${count}`}
            aria-disabled={place === 0}
            onClick={() => onMove(place, place - 1, `${key}-up`)}
            className="rounded-md p-2 hover:bg-gust-soft aria-disabled:opacity-40"
          >
            <ArrowUp size={18} aria-hidden="true" />
          </button>
          <button
            type="button"
            id={`${key}-down`}
            aria-label={t`Move ${text} down, now ${place + 1} of ${count}`}
            aria-disabled={place === count - 1}
            onClick={() => onMove(place, place + 1, `${key}-down`)}
            className="rounded-md p-2 hover:bg-gust-soft aria-disabled:opacity-40"
          >
            <ArrowDown size={18} aria-hidden="true" />
          </button>
        </>
      )}
    </li>
  )
}

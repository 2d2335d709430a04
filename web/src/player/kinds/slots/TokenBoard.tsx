import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { t } from '@lingui/core/macro'
import { createContext, type ReactNode, useContext, useState } from 'react'
import type { Schemas } from '../../../api/client'
import { Html } from '../../../ui/Html'
import { fromPairs, pairsOf, plain } from '../../values'
import { spokenDrag } from '../shared/spoken'

interface Board {
  placed: Map<string, string>
  held: string | null
  names: Map<string, string>
  closed: boolean
  place: (slot: string) => void
}

const BoardContext = createContext<Board | null>(null)

function useBoard(): Board {
  const board = useContext(BoardContext)
  if (!board) throw new Error('a slot stands on a board')
  return board
}

/**
 * Tokens to put into slots: dragged, or picked with a click, a touch or Enter and put down the
 * same way. A slot that is pressed with nothing held gives its token back.
 */
export function TokenBoard({
  part,
  value,
  onChange,
  closed,
  children,
}: {
  part: { tokens: Schemas['TokenOut'][]; reuse: boolean; slots: Schemas['SlotOut'][] }
  value: string
  onChange: (value: string) => void
  closed: boolean
  children: ReactNode
}) {
  const [held, setHeld] = useState<string | null>(null)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { keyboardCodes: { start: [], cancel: ['Escape'], end: [] } }),
  )
  const placed = pairsOf(value)
  const names = new Map(part.tokens.map((token) => [token.id, plain(token.html)]))
  const put = (slot: string, token: string | null) => {
    const next = new Map(placed)
    if (token === null) next.delete(slot)
    else {
      if (!part.reuse) for (const [other, there] of next) if (there === token) next.delete(other)
      next.set(slot, token)
    }
    onChange(fromPairs(next))
    setHeld(null)
  }
  const board: Board = {
    placed,
    held,
    names,
    closed,
    place: (slot) => put(slot, held),
  }
  const used = new Set(placed.values())
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragEnd={({ active, over }) => {
        if (over) put(String(over.id), String(active.id))
      }}
      accessibility={{
        announcements: spokenDrag((id) => names.get(id) ?? ''),
        screenReaderInstructions: { draggable: '' },
      }}
    >
      <BoardContext.Provider value={board}>
        {!closed && (
          <div className="mb-3 flex max-w-[45rem] flex-wrap gap-2">
            {part.tokens.map((token) => (
              <TokenButton
                key={token.id}
                token={token}
                held={held === token.id}
                used={!part.reuse && used.has(token.id)}
                onPick={() => setHeld(held === token.id ? null : token.id)}
              />
            ))}
          </div>
        )}
        {children}
      </BoardContext.Provider>
    </DndContext>
  )
}

function TokenButton({
  token,
  held,
  used,
  onPick,
}: {
  token: Schemas['TokenOut']
  held: boolean
  used: boolean
  onPick: () => void
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: token.id })
  return (
    <button
      ref={setNodeRef}
      type="button"
      aria-pressed={held}
      {...listeners}
      onClick={onPick}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 5 }
          : undefined
      }
      className={`relative min-h-10 touch-none rounded-lg border-2 px-3 py-1.5 ${
        held || isDragging ? 'border-gust bg-gust-soft font-semibold' : 'border-line bg-sheet'
      } ${used ? 'opacity-55' : 'hover:border-gust-mid'}`}
    >
      <Html html={token.html} inline />
    </button>
  )
}

/** A slot of the board, shown as what is in it. */
export function SlotButton({ id, name, wide }: { id: string; name: string; wide?: boolean }) {
  const { placed, held, names, closed, place } = useBoard()
  const { setNodeRef, isOver } = useDroppable({ id })
  const there = placed.get(id)
  const said = there ? names.get(there) : undefined
  return (
    <button
      ref={setNodeRef}
      type="button"
      data-slot={id}
      aria-label={`${name}: ${said ?? 'empty'}${held ? t`, put ${names.get(held) ?? ''} here` : ''}`}
      disabled={closed}
      onClick={() => place(id)}
      className={`min-h-10 rounded-lg border-2 px-3 py-1 text-left align-middle ${wide ? 'w-full min-w-40' : 'min-w-24'} ${
        isOver || held
          ? 'border-gust bg-gust-soft'
          : said
            ? 'border-gust-mid bg-sheet'
            : 'border-dashed border-edge bg-sheet'
      }`}
    >
      {said ?? <span className="text-ink-3">…</span>}
    </button>
  )
}

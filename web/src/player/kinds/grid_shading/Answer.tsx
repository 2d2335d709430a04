import { t } from '@lingui/core/macro'
import { type KeyboardEvent, useRef, useState } from 'react'
import { linesOf } from '../../values'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

/** Grid shading: press cells, or move with the arrows and press Space. */
export function Answer({ review, part, state, value, onChange }: PartProps<'grid_shading'>) {
  const closed = state.state !== 'open'
  const shaded = new Set(linesOf(value))
  const [active, setActive] = useState<[number, number]>([0, 0])
  const grid = useRef<HTMLDivElement>(null)
  const toggle = (cell: string) => {
    const next = new Set(shaded)
    if (!next.delete(cell)) next.add(cell)
    onChange([...next].join('\n'))
  }
  const onKey = (event: KeyboardEvent) => {
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    }
    const move = moves[event.key]
    if (!move) return
    event.preventDefault()
    const row = Math.min(part.rows - 1, Math.max(0, active[0] + move[0]))
    const column = Math.min(part.columns - 1, Math.max(0, active[1] + move[1]))
    setActive([row, column])
    grid.current?.querySelector<HTMLElement>(`[data-cell="${row} ${column}"]`)?.focus()
  }
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      review={review}
      note={t`${shaded.size} of ${part.rows * part.columns} shaded`}
    >
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the cells take the keys */}
      <div
        ref={grid}
        onKeyDown={onKey}
        className="inline-grid border-2 border-edge"
        style={{ gridTemplateColumns: `repeat(${part.columns}, 2.25rem)` }}
      >
        {Array.from({ length: part.rows * part.columns }, (_, i) => {
          const row = Math.floor(i / part.columns)
          const column = i % part.columns
          const cell = `${row} ${column}`
          return (
            <button
              key={cell}
              type="button"
              data-cell={cell}
              aria-pressed={shaded.has(cell)}
              aria-label={t`Row ${row + 1}, column ${column + 1}`}
              tabIndex={active[0] === row && active[1] === column ? 0 : -1}
              onFocus={() => setActive([row, column])}
              onClick={() => toggle(cell)}
              className={`size-9 border border-line ${shaded.has(cell) ? 'bg-gust' : 'bg-sheet hover:bg-gust-soft'}`}
            />
          )
        })}
      </div>
    </PartGroup>
  )
}

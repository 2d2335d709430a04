import { t } from '@lingui/core/macro'
import { type Cell, mark, markWords, STATES } from './marks'

/** A cell of a mark book: its mark, struck through where it is left out as the lowest, or why there
 * is none. below: the mark from which it passes. */
export function CellMark({ cell }: { cell: Cell }) {
  const dropped = cell.dropped ? 'line-through decoration-ink-3' : ''
  if (cell.mark !== null) {
    return (
      <span className="whitespace-nowrap tabular-nums">
        <span className={dropped}>{markWords(cell, cell.mark)}</span>
        {cell.dropped && <span className="sr-only">{t`lowest, doesn’t count`}</span>}
        {cell.late && <span className="ml-1 text-part text-sm">{t`late`}</span>}
      </span>
    )
  }
  if (cell.standing === 'open' || cell.standing === 'not_given')
    return <span className="sr-only">{cell.standing === 'open' ? STATES.open : t`not given`}</span>
  return (
    <span className={`text-ink-2 text-sm ${dropped}`}>
      {cell.held !== null && (
        <span className="text-ink-2 tabular-nums">{`${mark(cell.held)} `}</span>
      )}
      {STATES[cell.standing]}
      {cell.late && ` (${t`late`})`}
    </span>
  )
}

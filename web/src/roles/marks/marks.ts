import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'

export type Cell = Schemas['MarkCellOut']
export type Row = Schemas['MarkRowOut']

/** A mark with at most `most` decimals, and none it doesn't need. */
export const mark = (value: number, most = 1) => String(Number(value.toFixed(most)))

/** Why there is no mark. */
export const STATES: Record<Cell['standing'], string> = {
  marked: '',
  open: t`open`,
  waiting: t`waiting for marks`,
  held: t`not released`,
  missing: t`missing`,
  excused: t`excused`,
  not_given: '',
}

/** What counts of a cell that has a mark. */
export const markWords = (cell: Cell, value: number) =>
  cell.counts === 'done' ? (value > 0 ? t`done` : t`not done`) : mark(value)

/** A cell in words: its mark, or why there is none. */
export function cellWords(cell: Cell): string {
  const said = cell.mark === null ? STATES[cell.standing] : markWords(cell, cell.mark)
  const more = [cell.late && t`late`, cell.dropped && t`lowest, doesn’t count`].filter(Boolean)
  const held = cell.held === null ? '' : mark(cell.held)
  return [held, said, ...more].filter(Boolean).join(', ')
}

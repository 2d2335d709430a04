import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import { fromPairs, pairsOf } from '../../values'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

/** Cells of a table to fill. The table itself cannot be changed. */
export function Answer({
  review,
  part,
  state,
  value,
  onChange,
  fieldRef,
}: PartProps<'table_entry'>) {
  const typed = pairsOf(value)
  const closed = state.state !== 'open'
  const first = part.rows.flatMap((row) => row.cells).find((cell) => cell.id)?.id
  const set = (id: string, text: string) => {
    const next = new Map(typed)
    if (text) next.set(id, text)
    else next.delete(id)
    onChange(fromPairs(next))
  }
  return (
    <PartGroup label={part.label} closed={closed} review={review}>
      <div className="max-w-full overflow-x-auto">
        <table className="rounded-box bg-sheet text-left">
          <thead>
            <tr>
              {part.columns.map((column) => (
                <th key={column} scope="col" className="px-4 py-2 font-normal text-ink-2">
                  {column}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {part.rows.map((row) => (
              <tr key={row.label} className="border-t border-line">
                <th scope="row" className="px-4 py-2 font-normal">
                  {row.label}
                </th>
                {row.cells.map((cell, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: cells have no identity but their place
                  <td key={i} className="px-4 py-2 tabular-nums">
                    {cell.id === null ? (
                      <Html html={cell.html} inline />
                    ) : (
                      <span className="inline-flex items-center gap-1.5">
                        <input
                          ref={cell.id === first ? fieldRef : undefined}
                          aria-label={`${row.label}, ${part.columns[i + 1] ?? ''}${cell.unit ? t` in ${cell.unit}` : ''}`}
                          value={typed.get(cell.id) ?? ''}
                          readOnly={closed}
                          maxLength={100}
                          autoComplete="off"
                          onChange={(event) => set(cell.id ?? '', event.target.value)}
                          className="w-24 rounded-lg border-2 border-edge bg-sheet px-2 py-1.5"
                        />
                        <span aria-hidden="true" className="text-ink-2">
                          {cell.unit}
                        </span>
                      </span>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </PartGroup>
  )
}

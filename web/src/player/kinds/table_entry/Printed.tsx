import { Html } from '../../../ui/Html'
import { pairsOf } from '../../values'
import { PaperLine } from '../shared/paper'
import type { PrintedProps } from '../view'

/** The table with what was put into its cells. */
export function Printed({ part, value }: PrintedProps<'table_entry'>) {
  const typed = pairsOf(value)
  return (
    <table className="border border-ink text-left">
      <thead>
        <tr>
          {part.columns.map((column) => (
            <th key={column} scope="col" className="border border-ink px-3 py-1 font-normal">
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {part.rows.map((row) => (
          <tr key={row.label}>
            <th scope="row" className="border border-ink px-3 py-1 font-normal">
              {row.label}
            </th>
            {row.cells.map((cell, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: cells have no identity but their place
              <td key={i} className="border border-ink px-3 py-1">
                {cell.id === null ? (
                  <Html html={cell.html} inline />
                ) : (
                  <>
                    <PaperLine given={typed.get(cell.id) ?? ''} /> {cell.unit}
                  </>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

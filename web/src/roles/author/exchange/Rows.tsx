import { t } from '@lingui/core/macro'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import type { Import } from './queries'
import { RowCard } from './RowCard'

export interface Filter {
  wrong: boolean
  page: number
}

interface Props {
  course: string
  found: Import
  closed: boolean
  filter: Filter
  setFilter: (filter: Filter) => void
}

/** The questions of a spreadsheet, a page at a time. */
export function Rows({ course, found, closed, filter, setFilter }: Props) {
  return (
    <>
      <div className="mt-5 flex flex-wrap items-center gap-4">
        <h2 className="text-xl">{t`Questions`}</h2>
        <Check
          on={filter.wrong}
          set={(wrong) => setFilter({ wrong, page: 1 })}
        >{t`Only those with problems`}</Check>
      </div>
      {found.rows.length === 0 && <p className="mt-2 text-ink-2">{t`None.`}</p>}
      <ul className="mt-3 grid gap-3">
        {found.rows.map((row) => (
          <RowCard
            key={row.line}
            {...{ course, row, closed }}
            number={found.id}
            columns={found.columns}
          />
        ))}
      </ul>
      {found.pages > 1 && (
        <nav aria-label={t`Pages`} className="mt-4 flex items-center gap-3">
          <Button
            disabled={found.page === 1}
            onClick={() => setFilter({ ...filter, page: found.page - 1 })}
          >{t`Previous page`}</Button>
          <span className="tabular-nums">{t`Page ${found.page} of ${found.pages}`}</span>
          <Button
            disabled={found.page === found.pages}
            onClick={() => setFilter({ ...filter, page: found.page + 1 })}
          >{t`Next page`}</Button>
        </nav>
      )}
    </>
  )
}

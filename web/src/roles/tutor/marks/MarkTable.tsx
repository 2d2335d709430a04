import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { TextLink } from '../../../ui/TextLink'
import { CellMark } from '../../marks/CellMark'
import { cellWords, mark, type Row } from '../../marks/marks'
import { CellSheet } from './CellSheet'
import { ColumnSheet } from './ColumnSheet'
import type { MarkBook } from './queries'
import { RowSheet } from './RowSheet'

interface Props {
  group: number
  book: MarkBook
  learners: Row[]
}

type Column = MarkBook['columns'][number]
type Opened = { row: Row; place: number } | { row: Row } | { column: Column } | null

const LINES = ['border-gust', 'border-sun', 'border-correct', 'border-part', 'border-ink-3']

/** Learners down, work across, under the categories it counts in. */
export function MarkTable({ group, book, learners }: Props) {
  const [opened, setOpened] = useState<Opened>(null)
  const close = () => setOpened(null)
  const columns = book.columns
  const closed = book.term.closed !== null
  return (
    <>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard too */}
      <section className="mt-5 overflow-x-auto" aria-label={t`Marks`} tabIndex={0}>
        <table className="min-w-full border-collapse text-left">
          <thead>
            <tr className="text-ink-2 text-sm">
              <td className="sticky left-0 bg-sky" />
              <td />
              {spans(book).map(({ key, title, span }, place) => (
                <th
                  key={key ?? ''}
                  scope="colgroup"
                  colSpan={span}
                  className={`border-b-3 px-2 pb-1 align-bottom font-normal ${key === null ? 'border-line' : LINES[place % LINES.length]}`}
                >
                  {title}
                </th>
              ))}
              <td />
            </tr>
            <tr className="border-edge border-b-2 align-bottom text-ink-2 text-sm">
              <th
                scope="col"
                className="sticky left-0 bg-sky py-2 pr-3 font-normal"
              >{t`Learner`}</th>
              <th scope="col" className="min-w-16 px-2 py-2 font-normal">
                {closed ? t`Mark` : t`So far`}
              </th>
              {columns.map((column) => (
                <th
                  key={column.key}
                  scope="col"
                  className="min-w-24 max-w-40 px-2 py-2 font-normal"
                >
                  <Head
                    column={column}
                    group={group}
                    onEnter={() => setOpened({ column })}
                    closed={closed}
                  />
                </th>
              ))}
              <th scope="col" className="px-2 py-2 font-normal">
                {closed ? t`By the work now` : t`Can become`}
              </th>
            </tr>
          </thead>
          <tbody>
            {learners.map((row) => (
              <tr key={row.learner} className="border-line border-b">
                <th scope="row" className="sticky left-0 min-w-40 bg-sky py-2 pr-3 font-normal">
                  <TextLink to={`/tutor/learners/${row.learner}`} className="font-semibold">
                    {row.name}
                  </TextLink>
                </th>
                <td className="px-2">
                  <Total row={row} onOpen={() => setOpened({ row })} />
                </td>
                {row.cells.map((cell, place) => (
                  <td key={columns[place]?.key} className="px-2">
                    {closed || cell.standing === 'not_given' ? (
                      <CellMark cell={cell} />
                    ) : (
                      <button
                        type="button"
                        className="min-h-8 min-w-8 text-left hover:underline"
                        aria-label={`${row.name}, ${columns[place]?.title}: ${cellWords(cell)}`}
                        onClick={() => setOpened({ row, place })}
                      >
                        {cell.standing === 'open' ? (
                          <span className="text-ink-3">·</span>
                        ) : (
                          <CellMark cell={cell} />
                        )}
                      </button>
                    )}
                  </td>
                ))}
                <td className="whitespace-nowrap px-2 text-ink-2 text-sm tabular-nums">
                  {closed ? <Now row={row} /> : <Range row={row} />}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <p className="mt-3 max-w-3xl text-ink-2 text-sm">
        {closed
          ? t`These marks are fixed. Open a mark to correct it. The old one stays beside it.`
          : t`Open a mark to see how it was worked out. A line through a mark: the lowest, left out. Marks that aren’t released count for nobody yet.`}
      </p>
      {opened && 'place' in opened && (
        <CellSheet
          group={group}
          book={book}
          row={opened.row}
          place={opened.place}
          onClose={close}
        />
      )}
      {opened && 'row' in opened && !('place' in opened) && (
        <RowSheet group={group} book={book} row={opened.row} onClose={close} />
      )}
      {opened && 'column' in opened && (
        <ColumnSheet group={group} book={book} column={opened.column} onClose={close} />
      )}
    </>
  )
}

/** Categories over the columns they span, and what counts nowhere at the end. */
function spans(book: MarkBook) {
  const count = (key: string | null) => book.columns.filter((one) => one.category === key).length
  const weights = book.categories.reduce((sum, one) => sum + one.weight, 0)
  const found = book.categories.map(({ key, title, weight, drop }) => ({
    key: key as string | null,
    title: `${title}, ${t`${mark(weight)} of ${mark(weights)}`}${dropped(drop)}`,
    span: count(key),
  }))
  return [...found, { key: null, title: t`Doesn’t count`, span: count(null) }].filter(
    (one) => one.span > 0,
  )
}

const dropped = (drop: number) =>
  drop === 0 ? '' : drop === 1 ? t`, lowest left out` : t`, lowest ${drop} left out`

interface HeadProps {
  column: Column
  group: number
  closed: boolean
  onEnter: () => void
}

function Head({ column, group, closed, onEnter }: HeadProps) {
  if (column.kind === 'outside' && !closed)
    return (
      <>
        <button type="button" className="text-left text-gust hover:underline" onClick={onEnter}>
          {column.title}
        </button>
        {!column.shown && <span className="block">{t`hidden from learners`}</span>}
      </>
    )
  if (column.test !== null)
    return (
      <>
        <TextLink to={`/tutor/work/${group}/${column.test}/results`}>{column.title}</TextLink>
        {column.never_told && <span className="block">{t`score never shown`}</span>}
      </>
    )
  return <span>{column.title}</span>
}

function Total({ row, onOpen }: { row: Row; onOpen: () => void }) {
  const said = row.stands === null ? '–' : mark(row.stands)
  const corrected = row.fixed?.corrected ?? null
  return (
    <button
      type="button"
      className={`min-h-8 min-w-8 text-left font-heading font-semibold text-lg tabular-nums hover:underline ${row.below ? 'text-wrong' : ''}`}
      aria-label={`${row.name}: ${said} ${row.band}`}
      onClick={onOpen}
    >
      {corrected !== null && row.fixed && row.fixed.mark !== null && (
        <span className="mr-1.5 font-normal text-ink-2 text-sm line-through">
          {mark(row.fixed.mark)}
        </span>
      )}
      {said}
    </button>
  )
}

function Range({ row }: { row: Row }) {
  if (row.low === null || row.high === null) return null
  return row.low === row.high ? mark(row.low) : t`${mark(row.low)} to ${mark(row.high)}`
}

/** What the work comes to now, where that is another mark than the one that stands. */
function Now({ row }: { row: Row }) {
  if (row.mark === null || row.mark === row.stands) return null
  return <span className="font-semibold text-part">{mark(row.mark)}</span>
}

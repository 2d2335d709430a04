import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { day } from '../../ui/words'
import { CellMark } from './CellMark'
import { mark } from './marks'

type Detail = Schemas['RowDetailOut']

/** How a mark was worked out: category by category, then the sum; and what can still change it. */
export function MarkDetail({ found }: { found: Detail }) {
  return (
    <>
      <MarkLine found={found} />
      <Corrections found={found} />
      {found.outlook.length > 0 && (
        <section className="mt-4">
          <h3 className="text-lg">{t`What comes next can change it`}</h3>
          <ul className="mt-1">
            {found.outlook.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      )}
      <section className="mt-4">
        <h3 className="text-lg">{t`How it was worked out`}</h3>
        <table className="mt-1 w-full border-collapse text-left">
          <tbody>
            {found.parts.map((part) => (
              <Part key={part.key ?? ''} part={part} />
            ))}
          </tbody>
        </table>
        <p className="mt-3">{found.sum}</p>
      </section>
    </>
  )
}

/** The mark in large, and the range it can still be in. */
function MarkLine({ found }: { found: Detail }) {
  const { row, most } = found
  return (
    <p className="mt-2">
      <span className="font-heading font-semibold text-3xl tabular-nums">
        {row.stands === null ? '–' : mark(row.stands)}
      </span>
      <span className="text-ink-2"> {t`of ${most}`}</span>
      {row.band && <span className="ml-2 font-semibold">{row.band}</span>}
      <span className="block text-ink-2">
        {found.term.closed
          ? t`Closed on ${day(found.term.closed)}.`
          : row.low === null || row.high === null
            ? t`Nothing counts yet.`
            : row.low === row.high
              ? t`Nothing that is open can change it.`
              : t`It can still become ${mark(row.low)} to ${mark(row.high)}.`}
      </span>
    </p>
  )
}

function Corrections({ found }: { found: Detail }) {
  const before = found.row.fixed?.mark ?? null
  if (found.corrections.length === 0) return null
  return (
    <ul className="mt-3 border-part border-l-4 pl-3">
      {found.corrections.map((one) => (
        <li key={one.at}>
          {t`Corrected to ${mark(one.mark)} on ${day(one.at)} by ${one.by}: ${one.why}`}
          {before !== null && (
            <span className="text-ink-2"> {t`(the term was closed with ${mark(before)})`}</span>
          )}
        </li>
      ))}
    </ul>
  )
}

function Part({ part }: { part: Detail['parts'][number] }) {
  const weight = mark(part.weight, 2)
  return (
    <>
      <tr className="border-edge border-b-2">
        <th scope="rowgroup" className="pt-3 pb-1 font-semibold">
          {part.title}
          {part.key !== null && (
            <span className="font-normal text-ink-2 text-sm"> {t`weight ${weight}`}</span>
          )}
        </th>
        <td className="pt-3 pb-1 text-right font-semibold tabular-nums">
          {part.mean !== null && mark(part.mean, 2)}
        </td>
      </tr>
      {part.works.map((work) => (
        <tr key={work.column} className="border-line border-b">
          <th scope="row" className="py-1.5 font-normal">
            {work.title}
            {work.why && <span className="block text-ink-2 text-sm">{work.why}</span>}
          </th>
          <td className="py-1.5 text-right">
            {work.cell.standing === 'open' ? (
              <span className="text-ink-2 text-sm">{t`open`}</span>
            ) : (
              <CellMark cell={work.cell} />
            )}
          </td>
        </tr>
      ))}
    </>
  )
}

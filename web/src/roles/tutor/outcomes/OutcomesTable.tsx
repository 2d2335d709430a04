import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'
import { TextLink } from '../../../ui/TextLink'
import { hour } from '../../../ui/words'
import { type By, type Cell, type Outcomes, type Sat, STATES } from './outcomes'

interface Props {
  found: Outcomes
  shown: Sat[]
  by: By
  down: boolean
  onSort: (by: By) => void
}

/** Learners down, questions across. */
export function OutcomesTable({ found, shown, by, down, onSort }: Props) {
  const head = (key: By, label: ReactNode, title?: string) => (
    <th
      key={String(key)}
      scope="col"
      aria-sort={by === key ? (down ? 'descending' : 'ascending') : undefined}
      className="px-1.5 py-2 align-bottom font-normal text-ink-2 text-sm first:pl-0"
    >
      <button
        type="button"
        title={title}
        onClick={() => onSort(key)}
        className="min-h-8 text-left hover:underline"
      >
        {label}
        {by === key && <span aria-hidden="true">{down ? ' ↓' : ' ↑'}</span>}
      </button>
    </th>
  )
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard too
    <section className="mt-1 overflow-x-auto" aria-label={t`Results by question`} tabIndex={0}>
      <table className="min-w-full border-collapse text-left">
        <thead className="border-b-2 border-edge">
          <tr>
            {head('name', t`Learner`)}
            {head('result', t`Mark of ${found.scale}`)}
            {head('minutes', 'min')}
            {found.columns.map((column, place) =>
              head(
                place,
                <>
                  <span aria-hidden="true">{place + 1}</span>
                  <span className="sr-only">{t`Question ${place + 1}: ${column.title}`}</span>
                </>,
                column.title,
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {shown.map((one) => (
            <tr key={one.learner} className="border-b border-line">
              <th scope="row" className="min-w-44 py-1.5 pr-3 text-left font-normal">
                <TextLink to={`/tutor/learners/${one.learner}`} className="font-semibold">
                  {one.name}
                </TextLink>
                <Attempts one={one} />
              </th>
              <td className="min-w-28 px-1.5">
                <Result one={one} passMark={found.pass_mark} />
              </td>
              <td className="px-1.5 text-ink-2 tabular-nums">{one.minutes}</td>
              {one.cells.map((cell, place) => (
                <td
                  // biome-ignore lint/suspicious/noArrayIndexKey: a column has no other identity
                  key={place}
                  className="px-1.5 tabular-nums"
                >
                  {cell && <Answer cell={cell} learner={one} title={found.columns[place]?.title} />}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Attempts({ one }: { one: Sat }) {
  if (one.attempts.length < 2) return null
  const all = one.attempts
    .map((each) => (each.per_cent === null ? '?' : Math.round(each.per_cent)))
    .join(', ')
  return <span className="block text-sm text-ink-2">{t`attempts: ${all}%`}</span>
}

function Result({ one, passMark }: { one: Sat; passMark: number | null }) {
  const below = passMark !== null && one.per_cent !== null && one.per_cent < passMark
  const said = STATES[one.state]
  if (one.state === 'under_way') {
    return (
      <span className="text-sm">
        {t`answered ${one.answered} of ${one.of}`}
        {one.until && <span className="block text-ink-2">{t`until ${hour(one.until)}`}</span>}
      </span>
    )
  }
  return (
    <>
      {one.scaled !== null && (
        <span className={`font-semibold tabular-nums ${below ? 'text-wrong' : ''}`}>
          {Math.round(10 * one.scaled) / 10}
          <span className="font-normal text-ink-2">{` (${Math.round(one.per_cent ?? 0)}%)`}</span>
        </span>
      )}
      {said && <span className="block text-sm text-ink-2">{said}</span>}
      {one.late && <span className="block text-sm text-part">{t`late`}</span>}
    </>
  )
}

const WORDS: Record<Cell['result'], string> = {
  right: t`right`,
  partly: t`partly right`,
  wrong: t`wrong`,
  empty: t`empty`,
  waiting: t`waiting`,
  dropped: t`dropped`,
}
const TONES: Record<Cell['result'], string> = {
  right: 'text-correct',
  partly: 'text-part',
  wrong: 'text-wrong',
  empty: 'text-ink-3',
  waiting: 'text-ink-2',
  dropped: 'text-ink-3 line-through',
}

/** The points of an answer, which lead to it; what has none says why. */
function Answer({ cell, learner, title }: { cell: Cell; learner: Sat; title: string | undefined }) {
  const short = cell.result === 'empty' ? '–' : (cell.points ?? '?')
  const says = `${title ?? ''}: ${WORDS[cell.result]}, ${cell.points ?? t`no points yet`}, ${cell.seconds} s`
  const inside = (
    <>
      <span aria-hidden="true" className={TONES[cell.result]}>
        {short}
      </span>
      <span className="sr-only">{says}</span>
    </>
  )
  return cell.tried === null ? (
    <span title={says}>{inside}</span>
  ) : (
    <TextLink to={`/tutor/learners/${learner.learner}/tries/${cell.tried}`} title={says}>
      {inside}
    </TextLink>
  )
}

import { t } from '@lingui/core/macro'
import { type KeyboardEvent, memo, useDeferredValue, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../../../api/client'
import { DriftBar } from '../../../ui/DriftBar'
import { TextLink } from '../../../ui/TextLink'
import { day } from '../../../ui/words'
import { nextCell } from './cells'
import type { Row } from './listed'

type Group = Schemas['GroupOut']

const FIRST = 12

/** Topics across, learners down. One cell is in the order of Tab; arrows, Home and End go to the
 * others, so that sixty learners by thirty topics are reached without pressing Tab so often. */
export function GroupBars({
  group,
  learners,
  shown,
}: {
  group: Group
  learners: Row[]
  shown: boolean[]
}) {
  const table = useRef<HTMLTableElement>(null)
  // The rows on the first screen are drawn at once, the others right after.
  const rows = useDeferredValue(learners, learners.slice(0, FIRST))
  const [chosen, setAt] = useState<[number, number]>([0, 0])
  const topics = group.topics.filter((_, i) => shown[i])
  // Fewer rows or columns than before: one cell stays in the order of Tab.
  const at: [number, number] = [
    Math.max(0, Math.min(chosen[0], learners.length - 1)),
    Math.max(0, Math.min(chosen[1], topics.length - 1)),
  ]
  const go = (event: KeyboardEvent) => {
    const next = nextCell(event.key, at, learners.length, topics.length)
    if (!next || !(event.target as Element).closest('[data-cell]')) return
    event.preventDefault()
    setAt(next)
    table.current?.querySelector<HTMLElement>(`[data-cell="${next.join(' ')}"]`)?.focus()
  }
  return (
    <section
      aria-label={t`Levels of the group`}
      className="mt-6 overflow-x-auto"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls is reached by keyboard
      tabIndex={0}
    >
      <p id="cells" className="sr-only">{t`Arrow keys move between levels. Enter opens one.`}</p>
      <table
        ref={table}
        aria-describedby="cells"
        className="w-full border-collapse text-left"
        onKeyDown={go}
      >
        <thead>
          <tr className="align-bottom text-sm text-ink-2">
            <th
              scope="col"
              className="sticky left-0 z-[1] min-w-60 bg-sky py-1.5 pr-4 font-normal"
            >{t`Learner`}</th>
            {topics.map((topic) => (
              <th key={topic.key} scope="col" className="min-w-32 px-2 py-1.5 font-normal">
                {topic.title}
                {!topic.taught && <span className="block">{t`not taught yet`}</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            <LearnerRow
              key={row.id}
              row={row}
              topics={group.topics}
              shown={shown}
              number={r}
              tab={at[0] === r ? at[1] : -1}
              onReach={setAt}
            />
          ))}
        </tbody>
        <tfoot>
          <tr className="border-t-2 border-edge text-sm">
            <th
              scope="row"
              className="sticky left-0 z-[1] bg-sky py-2 pr-4 text-left font-semibold"
            >{t`Mean of the levels known`}</th>
            {topics.map((topic) => (
              <td key={topic.key} className="px-2 py-2 tabular-nums">
                <span className="font-heading text-base font-semibold">{topic.mean ?? '?'}</span>{' '}
                <span className="text-ink-2">{t`(${topic.known}), ${topic.met} reached`}</span>
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
    </section>
  )
}

const LOUD: Row['kind'][] = ['stuck', 'left', 'not_begun', 'away', 'too_hard']

const LearnerRow = memo(function LearnerRow({
  row,
  topics,
  shown,
  number,
  tab,
  onReach,
}: {
  row: Row
  topics: Group['topics']
  shown: boolean[]
  number: number
  /** Which of its cells is in the order of Tab; -1 for none. */
  tab: number
  onReach: (at: [number, number]) => void
}) {
  const cells = topics.map((topic, i) => ({ topic, cell: row.cells[i] })).filter((_, i) => shown[i])
  return (
    <tr className="border-t border-line">
      <th scope="row" className="sticky left-0 z-[1] bg-sky py-2 pr-4 text-left font-normal">
        <TextLink to={`/tutor/learners/${row.id}`} className="font-semibold">
          {row.name}
        </TextLink>
        <span className={`block text-sm ${LOUD.includes(row.kind) ? 'text-part' : 'text-ink-2'}`}>
          {row.says}
        </span>
        {row.last_at && row.kind !== 'away' && (
          <span className="block text-sm text-ink-2">{t`last active ${day(row.last_at)}`}</span>
        )}
      </th>
      {cells.map(({ topic, cell }, c) => (
        <td key={topic.key} className="px-2">
          <Link
            to={`/tutor/learners/${row.id}/topics/${topic.key}`}
            className="block"
            data-cell={`${number} ${c}`}
            tabIndex={tab === c ? 0 : -1}
            onFocus={() => onReach([number, c])}
          >
            {!cell || cell.state === 'not_yet' ? (
              <span className="text-sm text-ink-3">
                {t`not yet`}
                <span className="sr-only"> {t`taught: ${row.name}, ${topic.title}`}</span>
              </span>
            ) : (
              <DriftBar
                name={`${row.name}, ${topic.title}`}
                reading={cell.reading}
                met={cell.state === 'met' || cell.state === 'secure'}
              />
            )}
          </Link>
        </td>
      ))}
    </tr>
  )
})

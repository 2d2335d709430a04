import { t } from '@lingui/core/macro'
import { Check } from '../../../ui/Check'
import { DriftBar } from '../../../ui/DriftBar'
import { TextLink } from '../../../ui/TextLink'
import { counted, day } from '../../../ui/words'
import type { BankLine, BankPage } from './queries'

/** Every question of a page of the bank: the post is the author’s judgement, the bar what answers
 * say. */
export function BankTable({
  bank,
  at,
  chosen,
  onChoose,
}: {
  bank: BankPage
  at: string
  chosen: string[]
  onChoose: (key: string, on: boolean) => void
}) {
  if (bank.lines.length === 0) return <p className="mt-6 text-ink-2">{t`No questions match.`}</p>
  return (
    <div className="relative mt-4 overflow-x-auto">
      <table className="w-full min-w-[58rem] text-left">
        <thead className="text-sm text-ink-2">
          <tr>
            <th scope="col" className="w-8 py-1">
              <span className="sr-only">{t`Chosen`}</span>
            </th>
            <th scope="col" className="py-1 pr-3 font-normal">{t`Question`}</th>
            <th scope="col" className="px-3 py-1 font-normal">{t`Topic`}</th>
            <th scope="col" className="w-72 px-3 py-1 font-normal">
              <span className="flex justify-between">
                <span>{t`easy`}</span>
                <span>{t`post: estimated; bar: measured`}</span>
                <span>{t`hard`}</span>
              </span>
            </th>
            <th scope="col" className="px-3 py-1 text-right font-normal">{t`first tries`}</th>
            <th scope="col" className="px-3 py-1 text-right font-normal">{t`right`}</th>
            <th scope="col" className="px-3 py-1 text-right font-normal">{t`time`}</th>
            <th scope="col" className="px-3 py-1 font-normal">{t`tells apart`}</th>
            <th scope="col" className="px-3 py-1 font-normal">
              <span className="sr-only">{t`To note`}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {bank.lines.map((line) => (
            <Line
              key={line.key}
              line={line}
              to={`${at}/${line.key}`}
              on={chosen.includes(line.key)}
              onChoose={(on) => onChoose(line.key, on)}
            />
          ))}
        </tbody>
      </table>
    </div>
  )
}

interface LineProps {
  line: BankLine
  to: string
  on: boolean
  onChoose: (on: boolean) => void
}

function Line({ line, to, on, onChoose }: LineProps) {
  const { middle, low, high } = line.measured ?? { middle: 0, low: 0, high: 0 }
  const says = line.measured
    ? t`estimated ${Math.round(line.judged)} of 100, measured ${Math.round(middle)}, probably between ${Math.round(low)} and ${Math.round(high)}`
    : t`estimated ${Math.round(line.judged)} of 100, not measured yet`
  return (
    <tr className="border-t border-line align-middle">
      <td className="py-1.5">
        <Check on={on} set={onChoose} label={t`Choose ${line.title}`} />
      </td>
      <th scope="row" className="py-1.5 pr-3 font-semibold">
        <TextLink to={to}>{line.title}</TextLink>
        {line.essential && (
          <span className="ml-2 text-sm font-normal text-ink-3">{t`essential`}</span>
        )}
      </th>
      <td className="px-3 py-1.5 text-sm text-ink-2">{line.topic.title}</td>
      <td className="px-3 py-1.5">
        <DriftBar
          name={line.title}
          says={says}
          bare={!line.measured}
          reading={{ level: line.measured ? middle : null, middle, low, high, target: line.judged }}
        />
      </td>
      <td className="px-3 py-1.5 text-right tabular-nums">{line.answers || ''}</td>
      <td className="px-3 py-1.5 text-right tabular-nums">
        {line.right === null ? '' : `${line.right}%`}
      </td>
      <td className="px-3 py-1.5 text-right whitespace-nowrap tabular-nums">
        {line.took === null ? '' : `× ${line.took.toFixed(1)}`}
      </td>
      <td className="px-3 py-1.5 text-sm">{line.separates}</td>
      <td className="px-3 py-1.5 text-sm">
        <Notes line={line} />
      </td>
    </tr>
  )
}

function Notes({ line }: { line: BankLine }) {
  const changed = line.changed_at && line.changed_by
  return (
    <>
      {line.needs.slice(0, 1).map((says) => (
        <span key={says} className="block text-part">
          {says}
        </span>
      ))}
      {line.stopped && <span className="block text-wrong">{t`Stopped`}</span>}
      {line.drafted && <span className="block font-semibold">{t`Has a draft`}</span>}
      {line.tests > 0 && (
        <span className="block text-ink-2">{t`In ${counted(line.tests, 'test')}`}</span>
      )}
      {changed && (
        <span className="block text-ink-2">
          {t`${line.changed_by}, ${day(line.changed_at ?? '')}`}
        </span>
      )}
    </>
  )
}

import { t } from '@lingui/core/macro'
import type { Question, Run, Schemas } from '../api/client'
import { Button } from '../ui/Button'
import { DriftBar } from '../ui/DriftBar'
import { counted, lowerFirst } from '../ui/words'
import { Block } from './Block'
import { ACTIVITIES, settled } from './descriptors'
import { GoalBlock, Ideas } from './RailGoal'
import type { Sheet } from './requests'
import type { RunActions } from './useRun'

interface Props {
  sheet: Sheet
  question: Question
  actions: RunActions
  onStudy: () => void
  onWhy: () => void
  /** Whether it stands beside the question; over it, hints and reading are in the tools. */
  beside: boolean
}

/** Beside the stage: what the answer changed, what the question is worth, where help is. */
export function Rail({ sheet, question, actions, onStudy, onWhy, beside }: Props) {
  const { run, feedback } = sheet
  const change = feedback?.level
  const blocks = ACTIVITIES[run.purpose].rail
  const can = (what: Question['can'][number]) => question.can.includes(what)
  return (
    <div className="grid gap-7">
      {change && <Changed change={change} wanted={run.wanted} />}
      {run.goal && blocks.includes('goal') && <GoalBlock run={run} />}
      {!change && blocks.includes('standing') && <Standing sheet={sheet} question={question} />}
      {run.ideas.length > 0 && <Ideas ideas={run.ideas} />}
      {blocks.includes('progress') && <Progress run={run} current={question.topic.key} />}
      {blocks.includes('worth') && <Worth question={question} />}
      {blocks.includes('stuck') && (
        <Block title={t`If you are stuck`}>
          <div className="mt-1 grid justify-items-start">
            {beside && can('hint') && (
              <Button
                kind="quiet"
                hint="H"
                className="-ml-2"
                onClick={actions.hint}
                disabled={question.hints_left === 0 || actions.busy}
              >
                {question.hints_left === 0
                  ? t`No more hints`
                  : question.hints.length
                    ? t`Next hint`
                    : t`First hint`}
              </Button>
            )}
            {!feedback && can('working') && (
              <Button
                kind="quiet"
                hint="W"
                className="-ml-2"
                onClick={actions.working}
                disabled={actions.busy}
              >{t`Show me the working`}</Button>
            )}
            {beside && (
              <Button
                kind="quiet"
                hint="R"
                className="-ml-2 text-left"
                onClick={onStudy}
              >{t`Read: ${lowerFirst(question.study.title)}, ${question.study.minutes}\u00a0min`}</Button>
            )}
          </div>
          {question.untouched && !question.closed && (
            <p className="mt-1 text-sm text-ink-2">{t`If you open help before your first try, the answer doesn’t count for your level.`}</p>
          )}
        </Block>
      )}
      <div className="grid justify-items-start">
        <Button
          kind="quiet"
          hint="Y"
          className="-ml-2"
          onClick={onWhy}
        >{t`Why this question`}</Button>
        {can('finish') && (
          <Button
            kind="quiet"
            hint="E"
            className="-ml-2"
            onClick={actions.finish}
            disabled={actions.busy}
          >{t`Stop here`}</Button>
        )}
      </div>
    </div>
  )
}

function Changed({ change, wanted }: { change: Schemas['LevelChangeOut']; wanted: string | null }) {
  const rows = [
    { label: 'before', reading: change.before, muted: true },
    { label: 'now', reading: change.after, muted: false },
  ]
  return (
    <Block title={t`What this answer changed`}>
      <p className="text-sm text-ink-2">{change.topic.title}</p>
      <div className="mt-2 grid grid-cols-[3.500rem_1fr_2rem] items-center gap-x-2 gap-y-1">
        {rows.map(({ label, reading, muted }) => (
          <div key={label} className="contents">
            <span className="text-sm text-ink-2">{label}</span>
            <DriftBar
              name={`${change.topic.title}, ${label}`}
              reading={reading}
              muted={muted}
              met={reading.at_target}
            />
            <span className="text-right font-heading font-semibold tabular-nums">
              {reading.level ?? ''}
            </span>
          </div>
        ))}
      </div>
      <p className="mt-2">{change.sentence}</p>
      {wanted && <p className="mt-2 font-semibold">{wanted}</p>}
    </Block>
  )
}

function Standing({ sheet, question }: { sheet: Sheet; question: Question }) {
  const topic = sheet.run.topics.find((t) => t.key === question.topic.key)
  if (!topic) return null
  return (
    <Block title={topic.title}>
      <div className="mt-2 grid grid-cols-[1fr_2rem] items-center gap-x-3">
        <DriftBar name={topic.title} reading={topic.reading} met={topic.reading.at_target} />
        <span className="text-right font-heading font-semibold tabular-nums">
          {topic.reading.level ?? ''}
        </span>
      </div>
      <p className="mt-2 text-sm text-ink-2">
        {question.untouched
          ? t`Only your first try moves the level.`
          : t`Your first try has counted. From here on, just learn.`}
      </p>
      {sheet.run.wanted && <p className="mt-2 font-semibold">{sheet.run.wanted}</p>}
    </Block>
  )
}

const STATES = {
  open: 'open',
  settled: 'settled',
  close: t`close to the target`,
  exhausted: t`no more questions`,
  held: 'held',
  lost: t`not remembered`,
} as const

function Progress({ run, current }: { run: Schemas['RunOut']; current: string }) {
  return (
    <Block
      title={t`${settled(run)} of ${run.topics.length} topics ${ACTIVITIES[run.purpose].done}`}
    >
      {run.left && run.left.questions > 0 && (
        <p className="text-ink-2">
          {leftWords(run.left)}
          {t`, about ${run.left.minutes} min`}
        </p>
      )}
      <ul className="mt-3 grid gap-2.5">
        {run.topics.map((topic) => (
          <li key={topic.key}>
            <span className="flex justify-between gap-3 text-sm">
              <span className={topic.key === current ? 'font-semibold' : ''}>{topic.title}</span>
              <span className={topic.status === 'open' ? 'text-ink-2' : 'font-semibold'}>
                {STATES[topic.status]}
              </span>
            </span>
            <DriftBar name={topic.title} reading={topic.reading} met={topic.reading.at_target} />
          </li>
        ))}
      </ul>
      <p className="mt-3 text-sm text-ink-2">{t`This is not a test. Please work alone, so that the result is yours.`}</p>
    </Block>
  )
}

/** About 14 more questions (8 to 22); one number where the range is that narrow. */
function leftWords({ questions, fewest, most }: NonNullable<Run['left']>): string {
  const about = t`About ${counted(questions, 'more question')}`
  return most - fewest < 2 ? about : t`${about} (${fewest} to ${most})`
}

function Worth({ question }: { question: Question }) {
  const rows: [string, string][] = [
    [t`Tries left`, t`${question.tries_left} of ${question.tries_all}`],
    question.closed
      ? [t`Points`, t`${question.share.toFixed(2).replace(/\.?0+$/, '') || '0'} of 1`]
      : [t`Worth now`, t`${question.worth_now} of 1`],
    [t`New versions left`, String(question.fresh_left)],
  ]
  return (
    <Block title={t`This question`}>
      <dl className="mt-1 grid grid-cols-[1fr_auto] gap-y-1">
        {rows.map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-ink-2">{label}</dt>
            <dd className="font-semibold tabular-nums">{value}</dd>
          </div>
        ))}
      </dl>
    </Block>
  )
}

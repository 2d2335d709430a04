import { t } from '@lingui/core/macro'
import { kindOf } from '../../activities/descriptors'
import type { Schemas } from '../../api/client'
import { DriftBar } from '../../ui/DriftBar'
import { Sign } from '../../ui/Sign'
import { TextLink } from '../../ui/TextLink'
import { day } from '../../ui/words'
import { History } from './History'
import { isMet } from './standing'

/** A topic: its level, how it came here, what would settle it, and the answers that made it. */
export function TopicView({
  page,
  studyAt,
}: {
  page: Schemas['TopicPageOut']
  /** Where a study section is read; without it the sections are left out. */
  studyAt?: (section: Schemas['StudyLinkOut']) => string
}) {
  const { line } = page
  const { reading } = line
  return (
    <>
      <div className="mt-5 grid max-w-5xl grid-cols-[minmax(0,1fr)_auto] items-center gap-8">
        <DriftBar
          name={line.title}
          reading={reading}
          past={line.past}
          size="large"
          met={isMet(line)}
        />
        <span className="text-right">
          <span className="block font-heading text-4xl font-bold tabular-nums">
            {reading.level ?? '?'}
          </span>
          {line.first_estimate && <span className="text-sm text-ink-2">{t`first estimate`}</span>}
        </span>
      </div>
      <dl className="mt-3 flex flex-wrap gap-x-10 gap-y-2">
        <Fact
          name={t`Probably between`}
          value={t`${Math.round(reading.low)} and ${Math.round(reading.high)}`}
        />
        <Fact name={t`Target`} value={String(reading.target)} />
        <Fact
          name={t`Chance of being at the target`}
          value={
            reading.level === null
              ? t`not known yet`
              : t`${Math.min(99, Math.round(100 * reading.chance))} in 100`
          }
        />
        <Fact name={t`Ideas covered`} value={t`${line.covered} of ${line.essential}`} />
        {line.misses > 0 && <Fact name={t`Mistakes to correct`} value={String(line.misses)} />}
      </dl>
      <div className="mt-8 grid gap-x-12 gap-y-8 @5xl:grid-cols-2">
        <section className="min-w-0">
          <h2 className="text-xl">{t`How the level has changed`}</h2>
          {page.history.length > 0 ? (
            <History points={page.history} target={reading.target} />
          ) : (
            <p className="mt-2 text-ink-2">{t`No answers on this topic yet.`}</p>
          )}
          {page.pace_says && (
            <>
              <h2 className="mt-6 text-xl">{t`Own pace`}</h2>
              <p className="mt-1 max-w-xl">{page.pace_says}</p>
            </>
          )}
          {studyAt && (
            <>
              <h2 className="mt-6 text-xl">{t`To read`}</h2>
              <ul className="mt-1">
                {page.sections.map((section) => (
                  <li key={section.section} className="py-1">
                    <TextLink to={studyAt(section)}>{section.title}</TextLink>
                    <span className="text-ink-2">{t`, ${section.minutes} min`}</span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </section>
        <section className="min-w-0">
          <Outlook outlook={page.outlook} name={line.title} />
          <h2 className="mt-6 text-xl">{t`Answers behind this level`}</h2>
          {page.answers_note && <p className="mt-1 text-ink-2">{page.answers_note}</p>}
          <Answers answers={page.answers} />
        </section>
      </div>
    </>
  )
}

/** What the next answer would do to the level, drawn as it would stand. */
function Outlook({ outlook, name }: { outlook: Schemas['OutlookOut']; name: string }) {
  const rows = [
    { label: t`next one right`, reading: outlook.if_right },
    { label: t`next one wrong`, reading: outlook.if_missed },
  ]
  return (
    <>
      <h2 className="text-xl">{t`What would make it certain`}</h2>
      <p className="mt-1 text-ink-2">{outlook.sentence}</p>
      <div className="mt-2 grid grid-cols-[6rem_minmax(0,1fr)_2.250rem_6.500rem] items-center gap-x-3 gap-y-1">
        {rows.map(({ label, reading }) => (
          <div key={label} className="contents">
            <span className="text-sm text-ink-2">{label}</span>
            <DriftBar name={`${name}, ${label}`} reading={reading} muted met={reading.at_target} />
            <span className="text-right font-heading font-semibold tabular-nums">
              {reading.level ?? '?'}
            </span>
            <span className="text-sm text-ink-2 tabular-nums">
              {t`${Math.min(99, Math.round(100 * reading.chance))}% likely`}
            </span>
          </div>
        ))}
      </div>
      <p className="mt-1 text-sm text-ink-3">{t`The level if the next question is answered right or wrong. Right column: the chance of being at the target.`}</p>
    </>
  )
}

function Fact({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt className="text-sm text-ink-2">{name}</dt>
      <dd className="font-semibold tabular-nums">{value}</dd>
    </div>
  )
}

const WEIGHTS: Record<string, string> = {
  same_family: t`counted half: same idea again`,
  helped: t`not counted: help was opened first`,
  rapid: t`not counted: answered too fast to have read it`,
  gave_up: t`not counted: very quick after misses`,
  collection: t`not counted: your group’s own question`,
}

function Answers({ answers }: { answers: Schemas['TopicAnswerOut'][] }) {
  if (answers.length === 0) return <p className="mt-2 text-ink-2">{t`None yet.`}</p>
  return (
    <ul className="mt-1">
      {answers.map((answer) => (
        <li
          key={answer.at}
          className="grid grid-cols-[1.75rem_minmax(0,1fr)_auto] items-start gap-x-3 border-b border-line py-2"
        >
          {answer.result === 'not_taught' ? (
            <Sign kind="note" size={20} word={false} />
          ) : (
            <Sign kind={answer.result} size={20} />
          )}
          <span>
            {answer.title}
            <span className="block text-sm text-ink-2">
              {day(answer.at)}, {kindOf(answer.purpose)}
              {answer.result === 'not_taught' && t`, not taught yet`}
              {WEIGHTS[answer.weight_reason] && `, ${WEIGHTS[answer.weight_reason]}`}
            </span>
          </span>
          <span className="text-sm text-ink-2 tabular-nums">
            {answer.before !== null && answer.after !== null
              ? t`${Math.round(answer.before)} to ${Math.round(answer.after)}`
              : ''}
          </span>
        </li>
      ))}
    </ul>
  )
}

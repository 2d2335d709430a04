import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { capital, counted, hour, moment } from '../../../ui/words'
import { givenQuery } from '../queries'
import { AllowSheet, allowedWords } from './AllowSheet'
import { closePages, handInFor, sittingQuery, tickShown, watchCalls } from './queries'
import { SitterActions } from './SitterActions'
import { type Step, StepSheet, WatchBar } from './Watching'

type Sitting = Schemas['SittingOut']
type Sitter = Sitting['learners'][number]

const STATES: Record<Sitter['state'], string> = {
  not_begun: t`not started`,
  working: 'working',
  away: t`started, not here now`,
  paused: 'paused',
  handed_in: t`handed in`,
  pages_in: t`pages in`,
}
const ORDER: Sitter['state'][] = ['working', 'paused', 'away', 'not_begun', 'handed_in', 'pages_in']

/** Who sits a test: where each one is, sheets shown, pages in. */
export default function SittingPage() {
  const group = Number(useParams().group)
  const assignment = Number(useParams().assignment)
  const query = useQuery(sittingQuery(group, assignment))
  useTitle(t`Who is taking the test`)
  return (
    <Loaded query={query} what={t`who is taking the test`}>
      {(sitting) => <Sitters group={group} assignment={assignment} sitting={sitting} />}
    </Loaded>
  )
}

function Sitters(props: { group: number; assignment: number; sitting: Sitting }) {
  const { group, assignment, sitting } = props
  const cache = useQueryClient()
  const [allowing, setAllowing] = useState<Sitter | null>(null)
  const [step, setStep] = useState<Step | null>(null)
  const shared = useQuery(givenQuery(group, assignment)).data?.shared ?? []
  const [together, setTogether] = useState(true)
  const paper = sitting.wanted !== 'none'
  const change = useMutation({
    mutationFn: (act: () => Promise<Sitting>) => act(),
    onSuccess: (found) => cache.setQueryData(keys.sitting(group, assignment), found),
  })
  const counts = ORDER.map(
    (state) => [state, sitting.learners.filter((one) => one.state === state).length] as const,
  ).filter(([, count]) => count > 0)
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={`/tutor/work/${group}`}>{t`Tests of ${sitting.group}`}</TextLink>
      <h1 className="mt-1 text-3xl">{sitting.test}</h1>
      <p className="mt-1.5 text-ink-2" aria-live="polite">
        {capital(counted(sitting.learners.length, 'learner'))}:{' '}
        {counts.map(([state, count]) => `${count} ${STATES[state]}`).join(', ')}.
      </p>
      <Problem error={change.error} />
      <p className="mt-2">
        <TextLink
          to={`/tutor/work/${group}/${assignment}/results`}
          className="mr-6 font-semibold"
        >{t`Results`}</TextLink>
        <TextLink
          to={`/tutor/work/${group}/${assignment}/marking`}
          className="font-semibold"
        >{t`Mark and release`}</TextLink>
        <TextLink
          to={`/tutor/work/${group}/${assignment}/regrade`}
          className="ml-6 font-semibold"
        >{t`Regrade a question`}</TextLink>
      </p>
      {shared.length > 0 && (
        <Check on={together} set={setTogether}>
          {t`pause, resume and extend in ${shared.map((one) => one.title).join(', ')} too`}
        </Check>
      )}
      <WatchBar
        group={group}
        assignment={assignment}
        sitting={sitting}
        together={together}
        onStep={setStep}
      />
      <ul className="mt-5">
        {sitting.learners.map((one) => (
          <li
            key={one.learner}
            className="grid items-start gap-x-6 gap-y-1 border-b border-line py-2.5 @3xl:grid-cols-[18rem_16rem_minmax(0,1fr)]"
          >
            <span>
              <span className="font-semibold">{one.name}</span>
              <SitterActions
                one={one}
                busy={change.isPending}
                onAllow={() => setAllowing(one)}
                onStep={(kind) => setStep({ kind, sitter: one })}
                onResume={(attempt) =>
                  change.mutate(() => watchCalls(group, assignment).resume([attempt]))
                }
                onHandIn={(attempt) => change.mutate(() => handInFor(group, assignment, attempt))}
              />
            </span>
            <span>
              {STATES[one.state]}
              {one.handed_in && (
                <span className="block text-sm text-ink-2">
                  {moment(one.handed_in)}
                  <span className="block whitespace-nowrap">{t`check number ${one.number}`}</span>
                </span>
              )}
              {one.allowance && (
                <span className="block text-sm text-ink-2">{allowedWords(one.allowance)}</span>
              )}
              {one.accommodation.length > 0 && !one.allowance && (
                <span className="block text-sm text-ink-2">
                  {t`in every test: ${one.accommodation.join(', ')}`}
                </span>
              )}
              <History of={one.history} />
              {one.late > 0 && (
                <span className="block text-sm text-part">
                  {t`${capital(counted(one.late, 'answer'))} arrived after the end and`}{' '}
                  {one.late === 1 ? 'does' : 'do'} {t`not count`}
                </span>
              )}
            </span>
            {paper && one.attempt !== null && (
              <Paper
                one={one}
                group={group}
                assignment={assignment}
                busy={change.isPending}
                onTick={(shown) =>
                  change.mutate(() => tickShown(group, assignment, one.attempt ?? 0, shown))
                }
                onClose={() => change.mutate(() => closePages(group, assignment, one.attempt ?? 0))}
              />
            )}
          </li>
        ))}
      </ul>
      {step && (
        <StepSheet
          key={`${step.kind}-${step.sitter?.learner}`}
          group={group}
          assignment={assignment}
          step={step}
          together={together}
          onClose={() => setStep(null)}
        />
      )}
      {allowing && (
        <AllowSheet
          group={group}
          assignment={assignment}
          sitter={allowing}
          onClose={() => setAllowing(null)}
        />
      )}
    </main>
  )
}

/** What was done with an attempt by those who watch over it. */
function History({ of }: { of: Sitter['history'] }) {
  return of.map((one) => (
    <span key={one.at} className="block text-sm text-ink-2">
      {hour(one.at)} {one.says}
      {one.why && `: ${one.why}`} ({one.by})
    </span>
  ))
}

function Paper({
  one,
  group,
  assignment,
  busy,
  onTick,
  onClose,
}: {
  one: Sitter
  group: number
  assignment: number
  busy: boolean
  onTick: (shown: boolean) => void
  onClose: () => void
}) {
  const picture = (page: Sitter['pages'][number], small: boolean) =>
    `/api/groups/${group}/tests/${assignment}/sitting/${one.attempt}/pages/${page.id}?small=${small}&v=${page.version}`
  return (
    <div className="grid gap-1">
      <p className="text-ink-2">
        {one.on_paper === 0
          ? t`No pages`
          : t`${capital(counted(one.on_paper, 'question'))} on paper${one.sheets.length ? `, ${one.sheets.length > 1 ? 'sheets' : 'sheet'} ${one.sheets.join(', ')}` : ''}`}
        {t`; ${counted(one.pages.length, 'page')} in`}
        {one.pages_state === 'open' && one.until && t`, open until ${hour(one.until)}`}
        {one.pages_state === 'over' && t`, closed`}
      </p>
      <div className="flex flex-wrap items-center gap-x-5">
        <Check on={one.shown_at !== null} disabled={busy} set={onTick}>
          {t`sheets shown`}
          {one.shown_at && (
            <span className="text-sm text-ink-2">
              {one.shown_by}, {hour(one.shown_at)}
            </span>
          )}
        </Check>
        {one.pages_state === 'open' && (
          <Button kind="quiet" disabled={busy} onClick={onClose}>{t`Stop accepting pages`}</Button>
        )}
      </div>
      {one.pages.length > 0 && (
        <ul className="flex flex-wrap gap-2">
          {one.pages.map((page) => (
            <li key={page.id}>
              <a href={picture(page, false)} target="_blank" rel="noreferrer">
                <img
                  src={picture(page, true)}
                  alt={t`Page ${page.place} of ${one.name}${page.questions.length ? t`, answers question ${page.questions.join(', ')}` : ''}`}
                  className="h-24 rounded bg-rail object-contain"
                />
              </a>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

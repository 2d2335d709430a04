import { t } from '@lingui/core/macro'
import { Flag } from 'lucide-react'
import { useState } from 'react'
import type { Question } from '../../api/client'
import { Button } from '../../ui/Button'
import { type AnswerState, type Held, stateOf } from './kept'
import type { Attempt, Place } from './queries'

export const WORDS: Record<AnswerState, string> = {
  not_seen: t`not seen`,
  empty: 'empty',
  partly: t`partly answered`,
  unreadable: t`can’t be read`,
  answered: 'answered',
  sent: 'sent',
  paper: t`on paper`,
}

type Filter = 'all' | 'open' | 'flagged'

interface Props {
  attempt: Attempt
  held: Record<number, Held>
  sent: Record<number, Question>
  at: number | null
  onGo: (number: number) => void
  onCheck: () => void
}

/** Whether a place still wants something. */
export const isOpen = (state: AnswerState) =>
  state === 'not_seen' || state === 'empty' || state === 'partly' || state === 'unreadable'

/** A place with what was sent of it in this page, and how far it is answered. */
export function standing(place: Place, held: Record<number, Held>, sent: Record<number, Question>) {
  const now = sent[place.number]
  const own = held[place.number]
  const whole = now ? { ...place, question: now } : place
  return {
    place: whole,
    state: own ? stateOf(whole, own) : place.state,
    flagged: own?.data.flagged ?? false,
  }
}

/** Whether a place wants its working shown, and has none here yet. */
export function wantsWorking(place: Place, held: Record<number, Held>) {
  const data = held[place.number]?.data ?? place.data
  const shown = data.working?.lines.trim() || data.working?.strokes?.length || data.on_paper
  return place.working_wanted && !shown
}

/** Questions by short title with their states; filters over it; any of them a click away. */
export function PlaceList({ attempt, held, sent, at, onGo, onCheck }: Props) {
  const [filter, setFilter] = useState<Filter>('all')
  const all = attempt.places.map((place) => standing(place, held, sent))
  const kinds: Record<Filter, typeof all> = {
    all,
    open: all.filter((one) => isOpen(one.state)),
    flagged: all.filter((one) => one.flagged),
  }
  const labels: Record<Filter, string> = { all: t`All`, open: t`Open`, flagged: t`Flagged` }
  const sections = attempt.sections.length > 1
  return (
    <nav aria-label={t`Questions of the test`}>
      <fieldset className="flex gap-1 text-sm">
        <legend className="sr-only">{t`Show`}</legend>
        {(Object.keys(kinds) as Filter[]).map((kind) => (
          <button
            key={kind}
            type="button"
            aria-pressed={filter === kind}
            onClick={() => setFilter(kind)}
            className={`min-h-8 rounded-md px-2 ${filter === kind ? 'font-semibold text-ink underline underline-offset-4' : 'text-ink-2'}`}
          >
            {labels[kind]} {kinds[kind].length}
          </button>
        ))}
      </fieldset>
      <ol className="mt-2 grid gap-0.5">
        {kinds[filter].map(({ place, state, flagged }, i) => {
          const before = kinds[filter][i - 1]?.place.section
          const reachable = attempt.navigation !== 'linear' || place.number === attempt.position
          return (
            <li key={place.number}>
              {sections && place.section !== before && (
                <p className="mt-2 mb-1 px-2 text-sm text-ink-2">
                  {attempt.sections[place.section]?.title}
                </p>
              )}
              <button
                type="button"
                aria-current={at === place.number ? 'true' : undefined}
                disabled={!reachable}
                onClick={() => onGo(place.number)}
                className={`flex min-h-9 w-full items-center gap-3 rounded-lg px-2 py-1 text-left disabled:text-ink-3 ${at === place.number ? 'bg-sheet font-semibold' : 'hover:bg-sheet/60'}`}
              >
                <Dot number={place.number} state={state} />
                <span className="min-w-0 flex-1">{place.question.title}</span>
                <span className="sr-only">, {WORDS[state]}</span>
                {flagged && (
                  <>
                    <Flag size={16} aria-hidden="true" className="shrink-0 fill-sun text-ink" />
                    <span className="sr-only">{t`, flagged`}</span>
                  </>
                )}
              </button>
            </li>
          )
        })}
      </ol>
      {kinds[filter].length === 0 && (
        <p className="px-2 py-3 text-ink-2">
          {filter === 'open'
            ? t`Every question has an answer.`
            : t`You haven’t flagged any questions.`}
        </p>
      )}
      <Button hint="C" className="mt-4 w-full" onClick={onCheck}>{t`Check and hand in`}</Button>
    </nav>
  )
}

/** A number that shows how far its question is answered: ring, half, full; dotted when not seen. */
export function Dot({ number, state }: { number: number; state: AnswerState }) {
  const full = state === 'answered' || state === 'sent' || state === 'paper'
  return (
    <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true" className="shrink-0">
      <circle
        cx="13"
        cy="13"
        r="11.500"
        fill={full ? 'var(--v-ink)' : 'var(--v-sheet)'}
        stroke="var(--v-ink-3)"
        strokeWidth="1.500"
        strokeDasharray={state === 'not_seen' ? '2 3' : undefined}
      />
      {state === 'partly' && (
        <path d="M2.500 19h21a11.500 11.500 0 0 1-21 0" fill="var(--v-ink-3)" />
      )}
      {state === 'unreadable' && (
        <path d="M5.500 20.500h15" stroke="var(--v-part)" strokeWidth="3" strokeLinecap="round" />
      )}
      <text
        x="13"
        y="17.500"
        textAnchor="middle"
        fontSize="12"
        fontWeight="600"
        fill={full ? 'var(--v-sheet)' : 'var(--v-ink)'}
      >
        {number}
      </text>
    </svg>
  )
}

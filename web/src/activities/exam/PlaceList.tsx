import { t } from '@lingui/core/macro'
import { Flag } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { Question } from '../../api/client'
import { Button } from '../../ui/Button'
import { Sign } from '../../ui/Sign'
import { type AnswerState, type Held, stateOf } from './kept'
import { canGoTo } from './pages'
import type { Attempt, Place } from './queries'
import { hasTriesLeft, sentOf, sentWords } from './sent'

export const WORDS: Record<AnswerState, string> = {
  not_seen: t`not seen`,
  empty: 'empty',
  partly: t`partly answered`,
  unreadable: t`can’t be read`,
  answered: 'answered',
  sent: 'sent',
  paper: t`on paper`,
}

type Standing = ReturnType<typeof standing>
type Filter = [key: string, label: string, keeps: (one: Standing) => boolean]

const FILTERS: Filter[] = [
  ['all', t`All`, () => true],
  ['open', t`Open`, (one) => isOpen(one.state)],
  ['flagged', t`Flagged`, (one) => one.flagged],
]
const again = ({ place: { question } }: Standing) =>
  sentOf(question) !== 'not_tried' && hasTriesLeft(question)
const finished = ({ place: { question } }: Standing) =>
  sentOf(question) !== 'right' && sentOf(question) !== 'not_tried' && !hasTriesLeft(question)
const SENT_FILTERS: Filter[] = [
  ['all', t`All`, () => true],
  ['not_tried', t`Not tried`, (one) => sentOf(one.place.question) === 'not_tried'],
  ['right', t`Right`, (one) => sentOf(one.place.question) === 'right'],
  ['again', t`Can try again`, again],
  ['finished', t`No tries left`, finished],
  ['flagged', t`Flagged`, (one) => one.flagged],
]

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
  const [filter, setFilter] = useState('all')
  const list = useRef<HTMLOListElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: when another one is in view
  useEffect(() => {
    list.current?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' })
  }, [at])
  const all = attempt.places.map((place) => standing(place, held, sent))
  const singly = attempt.submission === 'individual'
  const filters = singly ? SENT_FILTERS : FILTERS
  const kinds = filters
    .map(([key, label, keeps]) => ({ key, label, places: all.filter(keeps) }))
    .filter(({ key, places }) => !singly || key === 'all' || places.length > 0)
  const chosen = kinds.find(({ key }) => key === filter) ?? kinds[0]
  const shown = chosen?.places ?? []
  const sections = attempt.sections.length > 1
  return (
    <nav aria-label={t`Questions of the test`} className="flex min-h-0 flex-col">
      <fieldset className="flex flex-wrap gap-1 text-sm">
        <legend className="sr-only">{t`Show`}</legend>
        {kinds.map(({ key, label, places }) => (
          <button
            key={key}
            type="button"
            aria-pressed={chosen?.key === key}
            onClick={() => setFilter(key)}
            className={`min-h-8 rounded-md px-2 ${chosen?.key === key ? 'font-semibold text-ink underline underline-offset-4' : 'text-ink-2'}`}
          >
            {label} {places.length}
          </button>
        ))}
      </fieldset>
      <ol ref={list} className="mt-2 grid min-h-0 gap-0.5 overflow-y-auto p-1">
        {shown.map(({ place, state, flagged }, i) => {
          const before = shown[i - 1]?.place.section
          const reachable = canGoTo(attempt, place)
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
                <span className="min-w-0 flex-1">
                  {place.question.title}
                  {singly && sentOf(place.question) !== 'not_tried' && (
                    <span className="block text-sm font-normal text-ink-2">
                      {sentWords(place.question)}
                    </span>
                  )}
                </span>
                {singly && <SentSign question={place.question} />}
                {!singly && <span className="sr-only">, {WORDS[state]}</span>}
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
      {shown.length === 0 && (
        <p className="px-2 py-3 text-ink-2">
          {filter === 'open'
            ? t`Every question has an answer.`
            : t`You haven’t flagged any questions.`}
        </p>
      )}
      <Button
        hint="C"
        className="mt-4 w-full shrink-0"
        onClick={onCheck}
      >{t`Check and hand in`}</Button>
    </nav>
  )
}

/** Right, partly or wrong, where it is told. */
function SentSign({ question }: { question: Question }) {
  const how = sentOf(question)
  if (how === 'not_tried') return <span className="sr-only">, {sentWords(question)}</span>
  return how === 'sent' ? null : <Sign kind={how} size={18} word={false} />
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

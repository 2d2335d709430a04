import { t } from '@lingui/core/macro'
import { Flag } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'
import type { Question } from '../../api/client'
import { Button } from '../../ui/Button'
import { type Filter, FilterRow, filtered } from '../../ui/FilterRow'
import { Sending } from '../../ui/Sending'
import { capital, counted } from '../../ui/words'
import type { Held } from './kept'
import { Dot, isOpen, standing, WORDS, wantsWorking } from './PlaceList'
import type { Attempt } from './queries'
import { clockFace } from './useLeft'

interface Props {
  attempt: Attempt
  held: Record<number, Held>
  sent: Record<number, Question>
  left: number | null
  over: boolean
  since: string | null
  /** Whether the server is there and in trouble. */
  trouble: boolean
  onGo: (number: number) => void
  onHandIn: () => Promise<boolean>
}

/** Before handing in: every question with its state and points, each one click away. */
export function CheckView(props: Props) {
  const { attempt, held, sent, left, over, since, trouble, onGo, onHandIn } = props
  const [filter, setFilter] = useState('all')
  const [sure, setSure] = useState(false)
  const [busy, setBusy] = useState(false)
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => heading.current?.focus(), [])
  const all = attempt.places.map((place) => standing(place, held, sent))
  const open = all.filter((one) => isOpen(one.state)).length
  const unread = all.filter((one) => one.state === 'unreadable').length
  const filters: Filter<(typeof all)[number]>[] = [
    ['all', t`All`, () => true],
    ['open', t`Not fully answered`, (one) => isOpen(one.state)],
    ['flagged', t`Flagged`, (one) => one.flagged],
  ]
  const shown = filtered(all, filters, filter)
  const handIn = async () => {
    setBusy(true)
    await onHandIn()
    setBusy(false)
    setSure(false)
  }
  return (
    <main id="main" className="px-5 py-7 @5xl:px-[4.500rem]">
      <h2 ref={heading} tabIndex={-1} className="text-2xl outline-none">
        {open === 0
          ? t`Every question has an answer`
          : t`${capital(counted(open, 'question'))} not fully answered`}
      </h2>
      <p className="mt-1 text-ink-2">
        {left === null
          ? t`Check your answers, and hand in when you are ready.`
          : t`${clockFace(left)} left. Check your answers, and hand in when you are ready.`}
      </p>
      {unread > 0 && (
        <p className="mt-2 text-part">
          {t`We can’t read your answers to ${counted(unread, 'question')}. Open a question to see how to write its answer. If you hand in as it is, your tutor will mark it.`}
        </p>
      )}
      <FilterRow
        all={all}
        filters={filters}
        chosen={filter}
        onChoose={setFilter}
        className="mt-5"
      />
      <ul className="mt-3 max-w-3xl">
        {shown.map(({ place, state, flagged }) => (
          <li key={place.number} className="border-b border-line">
            <button
              type="button"
              onClick={() => onGo(place.number)}
              className="grid w-full grid-cols-[2rem_minmax(0,1fr)_auto] items-center gap-x-3 py-2 text-left hover:bg-rail @3xl:grid-cols-[2rem_minmax(0,1fr)_12rem_6rem]"
            >
              <Dot number={place.number} state={state} />
              <span className="flex items-center gap-2">
                {place.question.title}
                {flagged && (
                  <>
                    <Flag size={16} aria-hidden="true" className="fill-sun text-ink" />
                    <span className="sr-only">{t`flagged`}</span>
                  </>
                )}
              </span>
              <span className={isOpen(state) ? 'text-part' : 'text-ink-2'}>
                {WORDS[state]}
                {wantsWorking(place, held) && t`, show your working`}
              </span>
              <span className="hidden text-right text-ink-2 tabular-nums @3xl:block">
                {counted(place.points, 'point')}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <Button
        kind="strong"
        className="mt-6"
        disabled={over}
        onClick={() => setSure(true)}
      >{t`Hand in`}</Button>
      <Dialog.Root open={sure} onOpenChange={setSure}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 bg-ink/45" />
          <Dialog.Content className="fixed top-1/2 left-1/2 w-[min(30rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-box bg-sheet p-6 shadow-xl">
            <Dialog.Title className="text-xl">{t`Hand in now?`}</Dialog.Title>
            <Dialog.Description className="mt-2 text-ink-2">
              {open === 0
                ? t`Every question has an answer. `
                : t`Not fully answered: ${counted(open, 'question')}. `}
              {t`You can’t undo handing in.`}
            </Dialog.Description>
            {since && (
              <p role="alert" className="mt-3 text-part">
                {trouble
                  ? t`Something went wrong on our side. Your answers are saved here. Hand in again in a moment.`
                  : t`You are offline. Your answers are saved here. Hand in again when you are back online.`}
              </p>
            )}
            <div className="mt-5 flex flex-wrap gap-3">
              <Button
                kind="strong"
                disabled={busy}
                onClick={() => void handIn()}
              >{t`Hand in`}</Button>
              <Button kind="quiet" onClick={() => setSure(false)}>{t`Not yet`}</Button>
              <Sending busy={busy} />
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </main>
  )
}

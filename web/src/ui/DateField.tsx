import { t } from '@lingui/core/macro'
import { CalendarDays } from 'lucide-react'
import { Popover } from 'radix-ui'
import { lazy, Suspense, useEffect, useId, useRef, useState } from 'react'
import { isoDay, readDay, readTime, writtenDay } from './dates'
import { fieldClass } from './Field'

const Calendar = lazy(() => import('./Calendar'))

/** A day: typed the way people write one, or chosen in a calendar. */
export function DateField({
  label,
  day,
  onDay,
}: {
  label: string
  day: string | null
  onDay: (day: string | null) => void
}) {
  const id = useId()
  return (
    <div className="grid content-start gap-1">
      <label htmlFor={id} className="text-sm text-ink-2">
        {label}
      </label>
      <Day id={id} label={label} day={day} onDay={onDay} />
    </div>
  )
}

/** A day and a time of it, as the browser’s zone has them. usual: the time of a day chosen first. */
export function MomentField({
  label,
  at,
  usual,
  onAt,
}: {
  label: string
  at: string | null | undefined
  usual: string
  onAt: (at: string | null) => void
}) {
  const id = useId()
  const moment = at ? new Date(at) : null
  const day = moment && isoDay(moment)
  const time = moment ? moment.toTimeString().slice(0, 5) : ''
  const set = (to: string | null, clock: string) =>
    onAt(to ? new Date(`${to}T${clock}:00`).toISOString() : null)
  return (
    <div className="grid content-start gap-1">
      <label htmlFor={id} className="text-sm text-ink-2">
        {label}
      </label>
      <div className="flex gap-2">
        <Day id={id} label={label} day={day} onDay={(to) => set(to, time || usual)} />
        <Typed
          label={t`${label}, time`}
          shown={time}
          disabled={!day}
          className="w-20"
          read={readTime}
          problem={t`Write a time like 18:00.`}
          onRead={(clock) => set(day, clock || usual)}
        />
      </div>
    </div>
  )
}

function Day({
  id,
  label,
  day,
  onDay,
}: {
  id: string
  label: string
  day: string | null
  onDay: (day: string | null) => void
}) {
  const [open, setOpen] = useState(false)
  return (
    <div className="relative w-fit">
      <Typed
        id={id}
        shown={day ? writtenDay(day) : ''}
        className="w-48 pr-11"
        read={readDay}
        problem={t`Write a date like 3 Dec 2026.`}
        onRead={(found) => onDay(found || null)}
      />
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          aria-label={t`Calendar: ${label}`}
          className="absolute top-0.5 right-0.5 flex size-9 items-center justify-center rounded-lg text-ink-2 hover:bg-rail"
        >
          <CalendarDays size={18} aria-hidden="true" />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={4}
            aria-label={label}
            className="z-20 rounded-xl border border-edge bg-sheet p-3 shadow-xl"
          >
            <Suspense fallback={t`Loading…`}>
              <Calendar
                day={day}
                onDay={(found) => {
                  onDay(found)
                  setOpen(false)
                }}
              />
            </Suspense>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  )
}

/** A field for something that is read from what was typed; what can’t be read keeps the form. */
function Typed({
  id,
  label,
  shown,
  disabled,
  className,
  read,
  problem,
  onRead,
}: {
  id?: string
  label?: string
  shown: string
  disabled?: boolean
  className: string
  read: (typed: string) => string | null
  problem: string
  onRead: (found: string) => void
}) {
  const says = useId()
  const field = useRef<HTMLInputElement>(null)
  const [draft, setDraft] = useState<string | null>(null)
  const [left, setLeft] = useState(false)
  const wrong = draft !== null && read(draft) === null
  useEffect(() => field.current?.setCustomValidity(wrong ? problem : ''), [wrong, problem])
  return (
    <>
      <input
        ref={field}
        id={id}
        aria-label={label}
        aria-invalid={wrong && left}
        aria-describedby={wrong && left ? says : undefined}
        autoComplete="off"
        disabled={disabled}
        value={draft ?? shown}
        className={`${fieldClass} ${className}`}
        onChange={(event) => {
          const text = event.target.value
          setDraft(text)
          setLeft(false)
          const found = read(text)
          if (found !== null) onRead(found)
        }}
        onBlur={() => {
          if (wrong) setLeft(true)
          else setDraft(null)
        }}
      />
      {wrong && left && (
        <p id={says} role="alert" className="mt-1 text-sm text-wrong">
          {problem}
        </p>
      )}
    </>
  )
}

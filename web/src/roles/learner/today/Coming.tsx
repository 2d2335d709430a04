import { t } from '@lingui/core/macro'
import { useCourse, useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { TextLink } from '../../../ui/TextLink'
import { inDays, shortWeekday, untilDay } from '../../../ui/words'
import { useStepChoice } from '../queries'

type Today = Schemas['TodayOut']

/** The week at a glance: seven days, what each brings, and the exam however far it is. */
export function Coming({ today }: { today: Today }) {
  const to = useTo()
  const days = Array.from({ length: 7 }, (_, i) => inDays(today.day, i))
  const on = (day: string) => today.coming.filter((one) => one.on === day)
  const exam = today.exam_on
  return (
    <section className="mt-8">
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h2 className="text-lg">{t`Coming up`}</h2>
        <TextLink to={to('/plan')} className="font-semibold">
          {exam ? t`Plan to the exam, ${untilDay(today.day, exam)}` : t`Plan to a date`}
        </TextLink>
      </div>
      {today.coming.every((one) => !days.includes(one.on)) && (
        <p className="mt-1 text-ink-2 @3xl:hidden">{t`Nothing is due in the next seven days.`}</p>
      )}
      <ol className="mt-2 grid gap-px overflow-hidden rounded-lg bg-line @3xl:grid-cols-7">
        {days.map((day, i) => (
          <li
            key={day}
            className={`bg-sky p-2 text-sm @3xl:min-h-16 ${on(day).length ? '' : 'hidden @3xl:block'}`}
          >
            <span className={i === 0 ? 'font-semibold' : 'text-ink-2'}>{shortWeekday(day)}</span>
            {on(day).map((one) => (
              <span
                key={one.title}
                className={`mt-1 block border-l-4 pl-1.5 leading-tight break-words ${
                  one.kind === 'exam' ? 'border-sun font-semibold' : 'border-gust-mid'
                }`}
              >
                {one.title}
              </span>
            ))}
          </li>
        ))}
      </ol>
    </section>
  )
}

/** Steps that were put off or turned down, to undo. */
export function PutAside({ steps }: { steps: Today['put_aside'] }) {
  const { back } = useStepChoice(useCourse())
  if (steps.length === 0) return null
  return (
    <section className="mt-6">
      <h2 className="text-lg">{t`Put aside`}</h2>
      <ul>
        {steps.map((step) => (
          <li key={step.key} className="flex flex-wrap items-center gap-x-4">
            <span>{step.title}</span>
            <span className="text-ink-2">
              {step.until ? t`until ${shortWeekday(step.until)}` : t`hidden`}
            </span>
            <Button
              kind="quiet"
              aria-label={t`Bring back: ${step.title}`}
              disabled={back.isPending}
              onClick={() => back.mutate(step.key)}
            >{t`Bring back`}</Button>
          </li>
        ))}
      </ul>
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { buttonClass } from '../../../ui/Button'
import { DriftBar } from '../../../ui/DriftBar'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { counted, longDay, shortWeekday } from '../../../ui/words'
import { toDateQuery } from '../queries'
import { Forecast } from './Forecast'

type Plan = Schemas['PlanOut']

export default function PlanPage() {
  useTitle(t`Plan to a date`)
  const query = useQuery(toDateQuery(useCourse()))
  return (
    <Loaded query={query} what={t`the plan`}>
      {(plan) => (plan.exam_on ? <ToDate plan={plan} on={plan.exam_on} /> : <NoDate />)}
    </Loaded>
  )
}

function NoDate() {
  return (
    <main id="main" className="max-w-xl px-5 py-10 @5xl:px-8">
      <h1 className="text-3xl">{t`Choose a date`}</h1>
      <p className="mt-2 mb-5 text-ink-2">{t`Give a date and how long you plan to work. We’ll show how likely each target is, what matters most, and a plan for the week.`}</p>
      <Link to={useTo()('/aims')} className={buttonClass('strong')}>{t`Set a date`}</Link>
    </main>
  )
}

/** The forecast to the date, what decides it, and the week that follows. */
function ToDate({ plan, on }: { plan: Plan; on: string }) {
  const to = useTo()
  const a_week = plan.minutes.reduce((sum, one) => sum + one, 0)
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <div className="grid gap-x-14 gap-y-8 @5xl:grid-cols-[minmax(0,1fr)_22rem]">
        <section className="min-w-0">
          <p className="text-ink-2">
            {t`Plan to ${longDay(on)} (${counted(plan.days, 'day')}), based on ${a_week} min a week`}
          </p>
          <h1 className="mt-0.5 max-w-3xl text-3xl">{plan.headline}</h1>
          {plan.details.map((detail) => (
            <p key={detail} className="mt-1 text-[1.05rem]">
              {detail}
            </p>
          ))}
          <Forecast curve={plan.curve} topics={plan.topics} />
          <p className="mt-2 max-w-2xl">{plan.pace_says}</p>
          {plan.earlier_says && <p className="mt-1 max-w-2xl">{plan.earlier_says}</p>}
          <p className="mt-1 max-w-2xl text-sm text-ink-2">
            {t`Topics at the target in ${plan.paths} simulations from today. Four out of five end in the pale band. ${plan.past_says}`}
          </p>
        </section>
        <section>
          <h2 className="text-xl">{t`What matters most`}</h2>
          {plan.deciding.length === 0 ? (
            <p className="mt-1 text-ink-2">{t`No single topic holds you up.`}</p>
          ) : (
            <ul className="mt-1">
              {plan.deciding.map((one) => (
                <li key={one.topic.key} className="py-1.5">
                  <span className="flex justify-between gap-3">
                    <Link to={to(`/topics/${one.topic.key}`)} className="hover:underline">
                      {one.topic.title}
                    </Link>
                    <span className="text-ink-2 tabular-nums">
                      {t`${Math.round(100 * one.chance)}% likely`}
                    </span>
                  </span>
                  <DriftBar name={one.topic.title} reading={one.reading} />
                </li>
              ))}
            </ul>
          )}
          <Link
            to={to('/aims')}
            className={`${buttonClass('plain')} mt-3`}
          >{t`Change date, minutes or targets`}</Link>
        </section>
      </div>
      <h2 className="mt-8 text-xl">{t`This week`}</h2>
      <ol className="mt-2 grid gap-3 @3xl:grid-cols-4 @5xl:grid-cols-7">
        {plan.week.map((day) => (
          <Day key={day.on} day={day} />
        ))}
      </ol>
    </main>
  )
}

function Day({ day }: { day: Plan['week'][number] }) {
  return (
    <li className="border-t-2 border-edge pt-2">
      <p className="font-heading font-semibold">{shortWeekday(day.on)}</p>
      <p className="text-sm text-ink-2">{day.minutes > 0 ? `${day.minutes} min` : t`no time`}</p>
      <ul className="mt-1.5 grid gap-1.5 text-sm">
        {day.items.map((item) => (
          <li
            key={item.title}
            className={`border-l-4 pl-2 ${item.kind === 'practise' ? 'border-gust-mid' : 'border-sun'}`}
          >
            {t`${item.title}, ${item.minutes} min`}
          </li>
        ))}
      </ul>
    </li>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import type { Schemas, Step } from '../../../api/client'
import { DriftBar } from '../../../ui/DriftBar'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { day } from '../../../ui/words'
import { planQuery } from '../queries'
import { StepButton } from '../today/StepButton'
import Mix from './Mix'
import { OwnQuestions } from './OwnQuestions'

export default function PractisePage() {
  useTitle(t`Practise`)
  const query = useQuery(planQuery(useCourse()))
  const to = useTo()
  return (
    <Loaded query={query} what={t`what to practise`}>
      {(plan) => (
        <main id="main" className="max-w-6xl px-5 py-8 @5xl:px-8">
          <h1 className="text-3xl">
            {plan.steps.length > 0 ? t`What to practise next` : t`You’ve reached every target`}
          </h1>
          <p className="mt-1 text-ink-2">
            {plan.steps.length > 0
              ? t`The topics where practice helps you most come first. You can choose any of them.`
              : t`You can keep practising. You won’t lose a target you’ve reached.`}
          </p>
          {plan.under_way.length > 0 && (
            <p className="mt-4 flex flex-wrap gap-x-6 gap-y-1">
              {plan.under_way.map((run) => (
                <TextLink key={run.id} to={to(`/run/${run.id}`)} className="font-semibold">
                  {t`Continue: ${run.title.toLowerCase()}, last opened ${day(run.touched_at)}`}
                </TextLink>
              ))}
            </p>
          )}
          <details className="mt-4">
            <summary className="cursor-pointer font-semibold text-gust">{t`Mix several topics`}</summary>
            <Mix />
          </details>
          {plan.own && <OwnQuestions own={plan.own} />}
          <ol className="mt-5">
            {plan.steps.map((step, i) => (
              <PlanRow key={step.title} step={step} first={i === 0} />
            ))}
          </ol>
          <p className="mt-4 text-sm text-ink-2">{plan.pace}</p>
          {plan.met.length > 0 && <Met topics={plan.met} />}
        </main>
      )}
    </Loaded>
  )
}

function PlanRow({ step, first }: { step: Step; first: boolean }) {
  return (
    <li className="grid items-center gap-x-8 gap-y-2 border-b border-line py-4 @4xl:grid-cols-[minmax(0,5fr)_minmax(0,4fr)_2.500rem_10.500rem]">
      <div>
        <h2 className="text-lg">{step.title}</h2>
        <p className="text-ink-2">{step.reason}</p>
      </div>
      {step.reading && <DriftBar name={step.title} reading={step.reading} past={step.past} />}
      <span className="font-heading text-lg font-semibold tabular-nums">
        {step.reading?.level ?? '?'}
      </span>
      <div className="@4xl:text-right">
        <StepButton step={step} kind={first ? 'strong' : 'plain'} minutes />
      </div>
    </li>
  )
}

function Met({ topics }: { topics: Schemas['TopicLineOut'][] }) {
  const to = useTo()
  return (
    <section className="mt-8">
      <h2 className="text-xl">{t`Target reached`}</h2>
      <ul>
        {topics.map((topic) => (
          <li
            key={topic.key}
            className="grid grid-cols-[minmax(0,1fr)_2.500rem] items-center gap-x-8 gap-y-1 border-b border-line py-2.5 @4xl:grid-cols-[minmax(0,5fr)_minmax(0,4fr)_2.500rem_10.500rem]"
          >
            <Link to={to(`/topics/${topic.key}`)} className="font-semibold hover:underline">
              {topic.title}
            </Link>
            <span className="order-last col-span-2 @4xl:order-none @4xl:col-span-1">
              <DriftBar name={topic.title} reading={topic.reading} past={topic.past} met />
            </span>
            <span className="font-heading text-lg font-semibold tabular-nums">
              {topic.reading.level ?? '?'}
            </span>
            <span className="text-sm text-ink-2 @4xl:text-right">
              {topic.met_at && t`reached ${day(topic.met_at)}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

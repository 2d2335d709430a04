import { t } from '@lingui/core/macro'
import { useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { duration } from '../../../ui/durations'
import { TextLink } from '../../../ui/TextLink'

type Results = Schemas['ResultsOut']

/** What the test brought topic by topic. */
export function ResultsByTopic({ topics }: { topics: Results['topics'] }) {
  const to = useTo()
  return (
    <section aria-labelledby="by-topic" className="mt-8 max-w-3xl">
      <h2 id="by-topic" className="text-xl">{t`By topic`}</h2>
      <table className="mt-2 w-full border-collapse text-left">
        <thead className="border-b border-edge text-sm text-ink-2">
          <tr>
            <th scope="col" className="py-1 pr-4 font-normal">{t`Topic`}</th>
            <th scope="col" className="py-1 pr-4 font-normal">{t`Points`}</th>
            <th scope="col" className="py-1 pr-4 font-normal">{t`Right`}</th>
            <th scope="col" className="py-1 pr-4 font-normal">{t`Time`}</th>
          </tr>
        </thead>
        <tbody>
          {topics.map((one) => (
            <tr key={one.topic.key} className="border-b border-line">
              <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                <TextLink to={to(`/topics/${one.topic.key}`)}>{one.topic.title}</TextLink>
              </th>
              <td className="py-1.5 pr-4 tabular-nums">{t`${one.points} of ${one.of}`}</td>
              <td className="py-1.5 pr-4 tabular-nums">{t`${one.right} of ${one.questions}`}</td>
              <td className="py-1.5 text-ink-2 tabular-nums">{duration(one.seconds)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** What explains the questions that were not right. */
export function StudyAfter({ study }: { study: Results['study'] }) {
  const to = useTo()
  return (
    <section aria-labelledby="study-after" className="mt-8 max-w-3xl print:hidden">
      <h2 id="study-after" className="text-xl">{t`To study after this test`}</h2>
      <ul className="mt-1">
        {study.map((one) => (
          <li key={`${one.topic} ${one.section}`} className="border-b border-line py-2">
            <TextLink to={to(`/study/${one.topic}#${one.section}`)}>{one.title}</TextLink>{' '}
            <span className="text-ink-2">{t`${one.minutes} min`}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

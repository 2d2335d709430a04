import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useCourse, useTo } from '../../../account/course'
import { useStart } from '../../../activities/requests'
import { Button } from '../../../ui/Button'
import { fieldClass, Labelled, Problem } from '../../../ui/Field'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { quizQuery } from '../queries'
import { TopicPicker } from './TopicPicker'

const COUNTS = [4, 6, 8, 10, 15, 20]

/** A quiz of one's own: topics, how many questions, and why each idea is in. */
export default function QuizPage() {
  useTitle(t`Make a quiz`)
  const to = useTo()
  const [topics, setTopics] = useState<string[]>([])
  const [questions, setQuestions] = useState(8)
  const plan = useQuery(quizQuery(useCourse(), topics, questions)).data
  const start = useStart()
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to={to('/review')}>{t`Review`}</TextLink>
      </p>
      <h1 className="text-3xl">{t`Make a quiz`}</h1>
      <p className="mt-1 mb-5 text-ink-2">{t`Half are essential questions, half are the ones you find hardest. You get one try each. Questions you miss go on your list.`}</p>
      <TopicPicker chosen={topics} onChange={setTopics} />
      <div className="mt-5 flex flex-wrap items-end gap-4">
        <Labelled label={t`Questions`}>
          <select
            className={fieldClass}
            value={questions}
            onChange={(event) => setQuestions(Number(event.target.value))}
          >
            {COUNTS.map((count) => (
              <option key={count}>{count}</option>
            ))}
          </select>
        </Labelled>
        <Button
          kind="strong"
          disabled={topics.length === 0 || start.isPending}
          onClick={() => start.mutate({ purpose: 'quiz', topics, questions })}
        >
          {plan && topics.length > 0
            ? t`Start: ${plan.ideas.length} questions, ${plan.minutes} min`
            : t`Start`}
        </Button>
        <Problem error={start.error} />
      </div>
      {plan && topics.length > 0 && (
        <section className="mt-7">
          <h2 className="text-xl">{t`What’s in it`}</h2>
          <ul className="mt-1">
            {plan.ideas.map((idea) => (
              <li
                key={idea.topic.key + idea.title}
                className="grid gap-x-6 border-b border-line py-2 @3xl:grid-cols-[minmax(0,1fr)_12rem_22rem]"
              >
                <span className="font-semibold">{idea.title}</span>
                <span className="text-ink-2">{idea.topic.title}</span>
                <span className="text-ink-2">{idea.why}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  )
}

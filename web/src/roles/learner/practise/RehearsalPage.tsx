import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useCourse, useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { QuestionView } from '../../../player/QuestionView'
import { Button } from '../../../ui/Button'
import { Html } from '../../../ui/Html'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { rehearsalQuery, tryOut } from '../queries'

/** Every kind of question on one page, as often as wanted. Nothing here counts. */
export default function RehearsalPage() {
  useTitle(t`Rehearsal`)
  const to = useTo()
  const query = useQuery(rehearsalQuery(useCourse()))
  return (
    <Loaded query={query} what={t`the rehearsal`}>
      {({ whole, questions }) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <h1 className="text-3xl">{t`Try every kind of question`}</h1>
          <p className="mt-1 max-w-prose text-ink-2">{t`Nothing here counts or is saved. Each question shows how to answer it: with the mouse, by touch, or with the keyboard.`}</p>
          {whole && (
            <p className="mt-3 max-w-prose">
              <TextLink
                to={to('/tests/rehearsal-0')}
                className="font-semibold"
              >{t`Rehearse a whole test`}</TextLink>
              {t`: with every tool, the clock, the check before handing in, and the results.`}
            </p>
          )}
          <nav aria-label={t`Kinds of question`} className="mt-4">
            <ol className="flex flex-wrap gap-x-5 gap-y-1">
              {questions.map((question) => (
                <li key={question.key}>
                  <a href={`#${question.key}`} className="text-gust hover:underline">
                    {question.title}
                  </a>
                </li>
              ))}
            </ol>
          </nav>
          {questions.map((question) => (
            <Try key={question.key} question={question} />
          ))}
        </main>
      )}
    </Loaded>
  )
}

function Try({ question }: { question: Schemas['RehearsalQuestionOut'] }) {
  const course = useCourse()
  const [responses, setResponses] = useState<Record<string, string>>({})
  const check = useMutation({
    mutationFn: () => tryOut(course, question.key, responses),
  })
  const reset = () => {
    setResponses({})
    check.reset()
  }
  const states = check.data?.states ?? question.states
  const open = states.some((state) => state.state === 'open')
  return (
    <section
      id={question.key}
      aria-labelledby={`${question.key}-title`}
      className="mt-8 scroll-mt-4 border-t border-line pt-6"
    >
      <h2 id={`${question.key}-title`} className="text-2xl">
        {question.title}
      </h2>
      <ul className="mt-1 mb-3 max-w-prose text-ink-2">
        {question.tips.map((tip) => (
          <li key={tip}>
            <Html html={tip} />
          </li>
        ))}
      </ul>
      <QuestionView
        question={{ ...question, states }}
        responses={responses}
        onChange={(part, value) => setResponses({ ...responses, [part]: value })}
      />
      <div className="mt-4 flex flex-wrap items-center gap-4">
        <Button
          kind="plain"
          disabled={check.isPending || !open}
          aria-label={t`Check: ${question.title}`}
          onClick={() => check.mutate()}
        >{t`Check`}</Button>
        <Button
          kind="quiet"
          aria-label={t`Reset: ${question.title}`}
          onClick={reset}
        >{t`Start again`}</Button>
        <p aria-live="polite" className="font-semibold">
          {check.error ? check.error.message : check.data?.says}
        </p>
      </div>
    </section>
  )
}

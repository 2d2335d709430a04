import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { QuestionView } from '../../../player/QuestionView'
import { Solution } from '../../../player/Solution'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Html } from '../../../ui/Html'
import { Sign } from '../../../ui/Sign'
import { tryQuery, type Versions } from './queries'

interface Props {
  course: string
  family: string
  version: string
  row: Versions['rows'][number]
}

/** A version in the player: answered right, or with a foreseen slip, by one press. */
export function TryVersion({ course, family, version, row }: Props) {
  const [responses, setResponses] = useState<Record<string, string>>({})
  const [sent, setSent] = useState<Record<string, string> | null>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: another version is begun anew
  useEffect(() => {
    setResponses({})
    setSent(null)
  }, [row.seed])
  const tried = useQuery(tryQuery(course, family, version, { seed: row.seed, responses: sent }))
  const fill = (part: string, response: string) => {
    setResponses({ ...responses, [part]: response })
    setSent(null)
  }
  const question = tried.data?.question
  return (
    <section aria-labelledby="tried" className="mt-5 rounded-box bg-sheet p-4">
      <h2 id="tried" className="text-xl">{t`Version ${row.seed}, as a learner gets it`}</h2>
      <div className="mt-2 flex flex-wrap items-center gap-2 text-sm">
        <span className="text-ink-2">{t`Fill in:`}</span>
        {row.parts.map((part) => (
          <span key={part.id} className="flex flex-wrap gap-2">
            <Button kind="quiet" onClick={() => fill(part.id, tried.data?.right[part.id] ?? '')}>
              {row.parts.length > 1 ? t`the right ${part.id}` : t`the right answer`}
            </Button>
            {part.slips.map(({ words, response }) => (
              <Button key={words} kind="quiet" onClick={() => fill(part.id, response)}>
                {words}
              </Button>
            ))}
          </span>
        ))}
      </div>
      <Problem error={tried.error} />
      {question && (
        <form
          className="mt-3"
          onSubmit={(event) => {
            event.preventDefault()
            setSent(sent ? null : responses)
          }}
        >
          <QuestionView
            question={question}
            responses={responses}
            onChange={(part, value) => {
              setResponses({ ...responses, [part]: value })
              setSent(null)
            }}
          />
          <div role="status">
            {sent &&
              question.states.map(({ id, state, says }) => (
                <p key={id} className="mt-3 flex items-start gap-2">
                  <Sign kind={state === 'right' ? 'right' : 'wrong'} />
                  {says && <Html html={says} />}
                </p>
              ))}
          </div>
          <p className="mt-3 flex flex-wrap gap-3">
            <Button type="submit">{sent ? t`Answer again` : t`Check`}</Button>
          </p>
          {sent && question.solution && (
            <Solution
              steps={question.solution}
              source={question.source}
              figure={question.solution_figure}
            />
          )}
        </form>
      )}
    </section>
  )
}

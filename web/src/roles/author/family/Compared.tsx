import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../../api/client'
import { QuestionView } from '../../../player/QuestionView'
import { Solution } from '../../../player/Solution'
import { Button } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { comparedQuery } from './queries'

type Side = Schemas['SideOut']
const VERSIONS = 50
const LINES = {
  both: { sign: ' ', word: '', tone: '' },
  older: { sign: '−', word: t`only before:`, tone: 'bg-wrong-soft' },
  newer: { sign: '+', word: t`only now:`, tone: 'bg-correct-soft' },
}

/** Two revisions: the same version of each as its learners see it, and their files. */
export function Compared({
  course,
  family,
  older,
  newer,
}: {
  course: string
  family: string
  older: number
  newer: number
}) {
  const [seed, setSeed] = useState(1)
  const query = useQuery(comparedQuery(course, family, { older, newer, seed }))
  return (
    <Loaded query={query} what={t`both of them`}>
      {(both) => (
        <>
          <p className="mt-4 flex items-center gap-4 text-ink-2">
            {t`Version ${seed}`}
            <Button onClick={() => setSeed((seed % VERSIONS) + 1)}>{t`Other numbers`}</Button>
          </p>
          <div className="mt-2 grid gap-4 @3xl:grid-cols-2">
            <SideView side={both.older} label={t`Before`} />
            <SideView side={both.newer} label={t`After`} />
          </div>
          <h2 className="mt-6 text-xl">{t`As files`}</h2>
          <div className="mt-2 overflow-x-auto rounded-box bg-sheet p-3 font-mono text-sm">
            {both.lines.map(({ of, text }, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines of a file
              <div key={place} className={`whitespace-pre-wrap ${LINES[of].tone}`}>
                <span aria-hidden="true">{LINES[of].sign} </span>
                {LINES[of].word && <span className="sr-only">{LINES[of].word}</span>}
                {text || ' '}
              </div>
            ))}
          </div>
        </>
      )}
    </Loaded>
  )
}

function SideView({ side, label }: { side: Side; label: string }) {
  const { question, revision } = side
  return (
    <section aria-label={label} className="min-w-0 rounded-box bg-sheet p-4">
      <h2 className="text-lg">
        {revision ? t`${label}: revision ${revision.number}` : t`${label}: the draft`}
      </h2>
      {question ? (
        <>
          <p className="mt-2 font-semibold">{question.title}</p>
          <QuestionView question={question} responses={{}} onChange={() => undefined} />
          {question.solution && (
            <Solution
              steps={question.solution}
              source={question.source}
              figure={question.solution_figure}
            />
          )}
        </>
      ) : (
        <p className="mt-2 text-ink-2">{t`Its file can’t be read yet.`}</p>
      )}
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { useStart } from '../../../activities/requests'
import { Button } from '../../../ui/Button'
import { fieldClass, Labelled, Problem } from '../../../ui/Field'
import { TopicPicker } from './TopicPicker'

const COUNTS = [0, 5, 10, 15, 20, 30]

/** Practice of a mix: several topics by turns, to their targets or for a number of questions. */
export default function Mix() {
  const [topics, setTopics] = useState<string[]>([])
  const [questions, setQuestions] = useState(0)
  const start = useStart()
  return (
    <div className="mt-3 rounded-box bg-sheet p-5">
      <TopicPicker chosen={topics} onChange={setTopics} />
      <div className="mt-4 flex flex-wrap items-end gap-4">
        <Labelled label={t`Until`}>
          <select
            className={fieldClass}
            value={questions}
            onChange={(event) => setQuestions(Number(event.target.value))}
          >
            {COUNTS.map((count) => (
              <option key={count} value={count}>
                {count === 0 ? t`you reach every target` : t`${count} questions answered`}
              </option>
            ))}
          </select>
        </Labelled>
        <Button
          kind="strong"
          disabled={topics.length === 0 || start.isPending}
          onClick={() =>
            start.mutate({
              purpose: 'practice',
              topics,
              goal: questions ? { kind: 'questions', questions, families: [] } : null,
            })
          }
        >{t`Practise these topics`}</Button>
        <Problem error={start.error} />
      </div>
    </div>
  )
}

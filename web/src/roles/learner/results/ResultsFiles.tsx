import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { Button, buttonClass } from '../../../ui/Button'
import { Check } from '../../../ui/Check'

const KINDS = [
  ['xlsx', t`Save as a spreadsheet`],
  ['csv', t`Save as CSV`],
] as const

/** Results to be saved or printed, with the questions or without. */
export function ResultsFiles({ attempt }: { attempt: number }) {
  const course = useCourse()
  const to = useTo()
  const [questions, setQuestions] = useState(false)
  return (
    <section aria-labelledby="files" className="mt-7 print:hidden">
      <h2 id="files" className="text-xl">{t`Save or print`}</h2>
      <Check on={questions} set={setQuestions}>{t`with the questions and my answers`}</Check>
      <p className="mt-1 flex flex-wrap gap-3">
        {KINDS.map(([kind, words]) => (
          <a
            key={kind}
            download
            href={`/api/courses/${course}/attempts/${attempt}/results/file?kind=${kind}&questions=${questions}`}
            className={buttonClass('plain')}
          >
            {words}
          </a>
        ))}
        {questions ? (
          <Link
            to={to(`/tests/attempts/${attempt}/whole`)}
            className={buttonClass('plain')}
          >{t`Print`}</Link>
        ) : (
          <Button onClick={() => window.print()}>{t`Print`}</Button>
        )}
      </p>
    </section>
  )
}

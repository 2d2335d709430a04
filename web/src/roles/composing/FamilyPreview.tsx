import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { QuestionView } from '../../player/QuestionView'
import { Solution } from '../../player/Solution'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { familyQuery } from './queries'
import { StopAsking } from './StopAsking'

interface Props {
  course: string
  family: { key: string; title: string; versions: number }
  onClose: () => void
}

/** A question as its learners get it, with its answers; version after version. */
export function FamilyPreview({ course, family, onClose }: Props) {
  const [seed, setSeed] = useState(1)
  const question = useQuery(familyQuery(course, family.key, seed)).data?.question
  return (
    <Sheet open onOpenChange={onClose} title={family.title}>
      {family.versions > 1 && (
        <p className="mt-2 flex items-center gap-4 text-ink-2">
          {t`Version ${seed} of ${family.versions}`}
          <Button onClick={() => setSeed((seed % family.versions) + 1)}>{t`New numbers`}</Button>
        </p>
      )}
      {question && (
        <div className="mt-4">
          <QuestionView question={question} responses={{}} onChange={() => undefined} />
          {question.solution && (
            <Solution
              steps={question.solution}
              source={question.source}
              figure={question.solution_figure}
            />
          )}
        </div>
      )}
      <StopAsking course={course} family={family.key} />
    </Sheet>
  )
}

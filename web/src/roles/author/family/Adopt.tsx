import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { usePlace } from '../place'
import { adoptQuestion, type Workbench } from './queries'

/** A question that a group's tutor wrote, as an author of the course sees it. */
export function Adopt({
  page,
  onAdopted,
}: {
  page: Workbench
  onAdopted: (now: Workbench) => void
}) {
  const { course } = usePlace()
  const adopt = useMutation({
    mutationFn: () => adoptQuestion(course, page.key),
    onSuccess: onAdopted,
  })
  return (
    <div className="my-3 rounded-box bg-sheet p-4">
      <p>{t`Only “${page.group}” gets this question, and it changes no level. In the course, everybody gets it, and answers count from then on.`}</p>
      {page.is_draft && (
        <p className="mt-1 text-ink-2">{t`Publish it or discard the draft first.`}</p>
      )}
      <p className="mt-2">
        <Button
          disabled={adopt.isPending || page.is_draft || !page.published}
          onClick={() => adopt.mutate()}
        >{t`Take into the course`}</Button>
      </p>
      <Problem error={adopt.error} />
    </div>
  )
}

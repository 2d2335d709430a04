import { t } from '@lingui/core/macro'
import { useBeginPractice } from '../../account/session'
import { Button } from '../../ui/Button'

/** A test as its learners see it, as the practice learner. test: as it stands in addresses. */
export function PractiseButton(props: { course: string; test: string; title: string }) {
  const { course, test, title } = props
  const practise = useBeginPractice()
  return (
    <Button
      kind="quiet"
      aria-label={t`See ${title} as the practice learner`}
      disabled={practise.isPending}
      onClick={() =>
        practise.mutate(course, {
          onSuccess: () => window.location.assign(`/courses/${course}/tests/${test}`),
        })
      }
    >{t`See it as the practice learner`}</Button>
  )
}

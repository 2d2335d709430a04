import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { api, call } from '../api/client'
import { Button } from '../ui/Button'
import { forgetAll } from '../ui/storage'
import { keptFor, useSession } from './session'

/** Back to one's own account: nothing of the practice learner is kept in the browser. */
function useEndPractice() {
  const learner = useSession().data?.account
  return useMutation({
    mutationFn: () => call(api.DELETE('/api/practice-learner')),
    onSuccess: () => {
      if (learner) forgetAll(keptFor(learner.id))
      window.location.assign('/')
    },
  })
}

/** Says that a practice learner is at work, and leads back. */
export default function PracticeBanner({ name }: { name: string }) {
  const end = useEndPractice()
  return (
    <div
      role="note"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 bg-sun px-5 py-1.5 text-[#12232e] print:hidden"
    >
      <span>{t`You are ${name}, a practice learner. Nothing you do here counts.`}</span>
      <Button
        kind="quiet"
        className="!text-[#12232e] underline"
        disabled={end.isPending}
        onClick={() => end.mutate()}
      >{t`Back to my own account`}</Button>
    </div>
  )
}

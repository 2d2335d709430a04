import { t } from '@lingui/core/macro'
import { useTitle } from '../../ui/useTitle'
import { ThreadList } from './ThreadList'

/** What a learner asked others, and was asked. */
export default function ThreadsPage() {
  useTitle(t`My questions to others`)
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Questions and answers`}</h1>
      <p className="mt-1 text-ink-2">{t`What you asked about questions, what classmates asked you, and what you reported.`}</p>
      <ThreadList
        of="threads"
        first=""
        none={t`No questions yet. Use “Ask or report” beside any question.`}
      />
    </main>
  )
}

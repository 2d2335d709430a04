import { useTitle } from '../../ui/useTitle'
import { ThreadList } from './ThreadList'

/** What a learner asked others, and was asked. */
export default function ThreadsPage() {
  useTitle('My questions to others')
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">Asked and answered</h1>
      <p className="mt-1 text-ink-2">
        What you asked about questions, what classmates asked you, and what you reported.
      </p>
      <ThreadList
        of="threads"
        first=""
        none="Nothing here. “Ask or report” is in the tools of every question."
      />
    </main>
  )
}

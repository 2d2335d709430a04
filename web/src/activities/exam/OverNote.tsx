import { Link } from 'react-router'
import { Button } from '../../ui/Button'
import type { Over } from './useAttempt'

/** Why nothing can be changed here any more, and where to go. */
export function OverNote({ over, receipt }: { over: Over; receipt: string }) {
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-x-6 gap-y-2 bg-part-soft px-5 py-3 text-part @5xl:px-8"
    >
      <p className="font-semibold">{over.says}</p>
      {over.why === 'elsewhere' ? (
        <Button onClick={() => window.location.reload()}>Take it up here</Button>
      ) : (
        <Link to={receipt} className="underline underline-offset-4">
          To the receipt
        </Link>
      )}
    </div>
  )
}

import { t } from '@lingui/core/macro'
import { Button } from '../../ui/Button'

/** Says that another place has the test now, and offers to take it up here again. */
export function OverNote({ says }: { says: string }) {
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-x-6 gap-y-2 bg-part-soft px-5 py-3 text-part @5xl:px-8"
    >
      <p className="font-semibold">{says}</p>
      <Button onClick={() => window.location.reload()}>{t`Continue here`}</Button>
    </div>
  )
}

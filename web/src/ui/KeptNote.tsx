import { t } from '@lingui/core/macro'
import { Button } from './Button'

/** That something typed earlier is shown again, and the way to be rid of it. */
export function KeptNote({ restored, onDiscard }: { restored: boolean; onDiscard: () => void }) {
  if (!restored) return null
  return (
    <p role="status" className="my-2 flex flex-wrap items-center gap-x-3 text-part">
      {t`This is what you typed earlier but didn’t save.`}
      <Button kind="quiet" onClick={onDiscard}>{t`Discard it`}</Button>
    </p>
  )
}

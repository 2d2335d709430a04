import { t } from '@lingui/core/macro'
import { KeyCap } from './Button'
import { Sheet } from './Sheet'

/** Every key that does something here. */
export default function KeySheet({
  open,
  onOpenChange,
  keys,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  keys: [string, string][]
}) {
  return (
    <Sheet open={open} onOpenChange={onOpenChange} title={t`Keys`}>
      <p className="mt-2 text-ink-2">{t`Letter shortcuts don’t work while you type. You can turn them off in the menu under your initials.`}</p>
      <dl className="mt-4 grid grid-cols-[auto_1fr] items-center gap-x-5 gap-y-2.5">
        {keys.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <KeyCap>{key}</KeyCap>
              <span className="sr-only">{key}</span>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  )
}

import { t } from '@lingui/core/macro'
import { Button } from '../ui/Button'
import { Problem } from '../ui/Field'
import type { Sending } from './useSending'

/** Files on their way, each with how far it is, or why it was not taken. */
export function SendingLines({
  sendings,
  drop,
}: {
  sendings: Sending[]
  drop: (id: number) => void
}) {
  return (
    <div aria-live="polite">
      {sendings.map((one) => (
        <div key={one.id} className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <span className="break-words font-semibold">{one.name}</span>
          {one.error ? (
            <Problem error={one.error} />
          ) : (
            <>
              <progress
                className="h-2 w-40 accent-gust"
                value={one.share}
                aria-label={t`${one.name}: how much has arrived`}
              />
              {one.lost && (
                <span className="text-part">{t`No connection. It goes on by itself.`}</span>
              )}
            </>
          )}
          <Button kind="quiet" onClick={() => drop(one.id)}>
            {one.error ? t`Close` : t`Stop`}
          </Button>
        </div>
      ))}
    </div>
  )
}

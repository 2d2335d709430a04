import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { moment } from '../../../ui/words'
import { recordStore as recordStoreKey } from './keys'
import { type Store, sendNow } from './queries'

/** How sending goes: what the store has, what waits, what it refused. */
export function Sending({ store }: { store: Store }) {
  const cache = useQueryClient()
  const send = useMutation({
    mutationFn: sendNow,
    onSuccess: (next) => cache.setQueryData(recordStoreKey, next),
  })
  const { sent, sent_at, waiting, held, failures, says, next_at, refused_in_all } = store
  return (
    <div className="mt-5 rounded-box bg-sheet p-4">
      <p role="status">
        {sent_at
          ? t`The store has ${sent} statements. The last went out ${moment(sent_at)}.`
          : t`Nothing was sent yet.`}{' '}
        {waiting > held && t`To be sent: ${waiting - held}.`}{' '}
        {held > 0 && t`Held back for now, because a test is not over: ${held}.`}
      </p>
      {failures > 0 && (
        <p className="mt-1 text-wrong">
          {t`It failed (${failures} in a row): ${says}.`}{' '}
          {next_at && t`It is tried again ${moment(next_at)}.`}
        </p>
      )}
      {refused_in_all > 0 && (
        <>
          <p className="mt-2">{t`The store refused ${refused_in_all}:`}</p>
          <ul className="list-disc pl-5">
            {store.refused.map(({ what, says: why }) => (
              <li key={what}>{`${what}: ${why}`}</li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-2">
        <Button disabled={send.isPending || !store.on} onClick={() => send.mutate()}>
          {t`Send now`}
        </Button>
      </p>
      <Problem error={send.error} />
    </div>
  )
}

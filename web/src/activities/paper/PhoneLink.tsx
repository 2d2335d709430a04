import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useDemo } from '../../account/session'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { hour } from '../../ui/words'

/** A code for a phone's camera; in the demo a stand-in phone beside it. */
export function PhoneLink({ make }: { make: () => Promise<Schemas['PhoneLinkOut']> }) {
  const demo = useDemo()
  const link = useMutation({ mutationFn: make })
  const found = link.data
  return (
    <section aria-labelledby="phone" className="mt-5 max-w-2xl rounded-box bg-sheet p-5">
      <h2 id="phone" className="text-lg">{t`With your phone`}</h2>
      {!found && (
        <p className="mt-1 flex flex-wrap items-center gap-4">
          <Button
            disabled={link.isPending}
            onClick={() => link.mutate()}
          >{t`Show a code for the phone`}</Button>
          <span className="text-ink-2">{t`You don’t need to sign in on the phone.`}</span>
        </p>
      )}
      {found && (
        <div className="mt-2 flex flex-wrap items-center gap-6">
          <div
            role="img"
            aria-label={t`Code with the link for the phone`}
            className="w-48 bg-white p-1"
            dangerouslySetInnerHTML={{ __html: found.qr }}
          />
          <div className="grid max-w-72 justify-items-start gap-2">
            <p>{t`Point your phone’s camera at the code. It works until ${hour(found.until)}. Your photographs appear here.`}</p>
            <Button kind="quiet" onClick={() => link.mutate()}>{t`A new code`}</Button>
            {demo && (
              <Button
                onClick={() =>
                  window.open(`${found.path}?standin`, 'stand-in phone', 'width=390,height=760')
                }
              >{t`Open the stand-in phone`}</Button>
            )}
          </div>
        </div>
      )}
      <Problem error={link.error} />
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { type Account, useSignOut } from '../../account/session'
import { Button } from '../../ui/Button'
import { useTitle } from '../../ui/useTitle'

/** For roles whose part of the product is not there yet. */
export default function NoWorkYet({ account }: { account: Account }) {
  useTitle(t`Signed in`)
  const signOut = useSignOut()
  return (
    <main id="main" className="max-w-xl p-8">
      <h1 className="text-2xl">{t`Signed in as ${account.name}`}</h1>
      <p className="mt-2 mb-4 text-ink-2">
        {t`There is nothing to do here yet`}
        {account.roles.length > 0 && t` for: ${account.roles.join(', ')}`}.
      </p>
      <Button kind="strong" onClick={() => signOut.mutate(undefined)}>{t`Sign out`}</Button>
    </main>
  )
}

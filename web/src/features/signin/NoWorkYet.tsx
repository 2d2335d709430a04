import { type Session, useSignOut } from '../../app/session'
import { Button } from '../../ui/Button'
import { useTitle } from '../../ui/useTitle'

/** For roles whose part of the product is not there yet. */
export function NoWorkYet({ account }: { account: NonNullable<Session['account']> }) {
  useTitle('Signed in')
  const signOut = useSignOut()
  return (
    <main id="main" className="max-w-xl p-8">
      <h1 className="text-2xl">Signed in as {account.name}</h1>
      <p className="mt-2 mb-4 text-ink-2">
        This version has the learner's part only. There is nothing to do here yet for a{' '}
        {account.role}.
      </p>
      <Button kind="strong" onClick={() => signOut.mutate(undefined)}>
        Sign out
      </Button>
    </main>
  )
}

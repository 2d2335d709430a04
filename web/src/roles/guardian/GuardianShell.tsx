import { Shell } from '../../account/Shell'
import type { Account } from '../../account/session'

/** The guardian's bar. */
export function GuardianShell({ account }: { account: Account }) {
  return (
    <Shell
      account={account}
      as="guardian"
      home="/guardian"
      places={[{ to: '/guardian', label: 'Learners' }]}
    />
  )
}

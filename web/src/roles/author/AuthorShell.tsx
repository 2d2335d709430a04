import { t } from '@lingui/core/macro'
import { Shell } from '../../account/Shell'
import type { Account } from '../../account/session'

/** The author's bar. */
export function AuthorShell({ account }: { account: Account }) {
  return (
    <Shell
      account={account}
      as="author"
      home="/author"
      places={[
        { to: '/author', label: t`Reported problems`, end: true },
        { to: '/author/tests', label: t`Tests` },
      ]}
    />
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Shell } from '../../account/Shell'
import type { Account } from '../../account/session'

import { consentsQuery } from './consent'

/** The guardian's bar; consent is in it for whoever is or was asked for one. */
export function GuardianShell({ account }: { account: Account }) {
  const asked = useQuery(consentsQuery).data?.consents ?? []
  const waiting = asked.filter((one) => one.waits).length
  return (
    <Shell
      account={account}
      as="guardian"
      home="/guardian"
      places={[
        { to: '/guardian', label: t`Learners`, end: asked.length > 0 },
        ...(asked.length
          ? [
              {
                to: '/guardian/consent',
                label: t`Consent`,
                count: { number: waiting, of: t`waiting for your consent` },
              },
            ]
          : []),
      ]}
    />
  )
}

import { t } from '@lingui/core/macro'
import { Shell } from '../../account/Shell'
import type { Account } from '../../account/session'

/** The office's bar. */
export function OfficeShell({ account }: { account: Account }) {
  return (
    <Shell
      account={account}
      as="office"
      home="/office"
      places={[
        { to: '/office', label: t`To do`, end: true },
        { to: '/office/people', label: t`People` },
        { to: '/office/groups', label: t`Groups` },
        { to: '/office/school', label: t`School` },
        { to: '/office/programs', label: t`Other programs` },
        { to: '/office/log', label: t`Log` },
        { to: '/office/mails', label: t`Mails` },
        { to: '/office/system', label: t`System` },
      ]}
    />
  )
}

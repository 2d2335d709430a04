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
        { to: '/office', label: 'Now', end: true },
        { to: '/office/people', label: 'People' },
        { to: '/office/groups', label: 'Groups' },
        { to: '/office/school', label: 'School' },
        { to: '/office/log', label: 'Log' },
        { to: '/office/mails', label: 'Mails' },
        { to: '/office/system', label: 'System' },
      ]}
    />
  )
}

import { t } from '@lingui/core/macro'
import { TextField } from '../../ui/Field'

interface Props {
  value: string
  onText: (text: string) => void
}

/** The password of who is signed in, asked again before what could take the account is changed. */
export function KnownPassword(props: Props) {
  return (
    <TextField
      label={t`Current password`}
      type="password"
      autoComplete="current-password"
      required
      maxLength={200}
      {...props}
    />
  )
}

/** A password to sign in with from now on. className: of the label with its field. */
export function NewPassword(props: Props & { label: string; className?: string }) {
  return (
    <TextField
      type="password"
      autoComplete="new-password"
      required
      minLength={8}
      maxLength={200}
      {...props}
    />
  )
}

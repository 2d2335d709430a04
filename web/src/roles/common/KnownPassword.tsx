import { TextField } from '../../ui/Field'

/** The password of who is signed in, asked again before what could take the account is changed. */
export function KnownPassword({
  value,
  onText,
}: {
  value: string
  onText: (text: string) => void
}) {
  return (
    <TextField
      label="Password now"
      type="password"
      autoComplete="current-password"
      required
      maxLength={200}
      value={value}
      onText={onText}
    />
  )
}

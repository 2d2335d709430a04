import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call } from '../api/client'
import { Button } from '../ui/Button'
import { Problem, TextField } from '../ui/Field'
import { TextLink } from '../ui/TextLink'
import { Outside } from './Outside'

/** Asking for a new password. Nobody is told whether an address has an account. */
export default function ForgottenPage() {
  const [mail, setMail] = useState('')
  const ask = useMutation({ mutationFn: () => call(api.POST('/api/reset', { body: { mail } })) })
  return (
    <Outside title={t`A new password`}>
      {ask.isSuccess ? (
        <p
          role="status"
          className="mt-4"
        >{t`If there is an account with ${mail}, we’ve sent a mail there. The link in it works once, for an hour. Nothing arrived? Look in your spam folder, or ask your school’s office.`}</p>
      ) : (
        <form
          className="mt-4 grid justify-items-start gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            ask.mutate()
          }}
        >
          <TextField
            label={t`Your mail address`}
            className="w-full"
            type="email"
            autoComplete="email"
            required
            maxLength={254}
            value={mail}
            onText={setMail}
          />
          <Button type="submit" kind="strong" disabled={ask.isPending}>{t`Mail me a link`}</Button>
          <Problem error={ask.error} />
        </form>
      )}
      <p className="mt-6">
        <TextLink to="/">{t`Back to sign-in`}</TextLink>
      </p>
    </Outside>
  )
}

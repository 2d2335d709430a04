import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem, TextField } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { moment } from '../../ui/words'
import { agentWords } from './agent'
import { KnownPassword, NewPassword } from './Passwords'
import { accountQuery } from './queries'
import { SecondFactor } from './SecondFactor'

type Account = Schemas['OwnAccountOut']

/** Mail address, password, where one is signed in, and the second factor. */
export default function AccountPage() {
  useTitle(t`My account`)
  const query = useQuery(accountQuery)
  return (
    <main id="main" className="grid max-w-4xl gap-9 px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`My account`}</h1>
      <Loaded query={query} what={t`your account`}>
        {(account) => (
          <>
            <Mail account={account} />
            <Password account={account} />
            <Sessions account={account} />
            {account.factor !== null && <SecondFactor on={account.factor} left={account.spares} />}
          </>
        )}
      </Loaded>
    </main>
  )
}

/** A change of the account; what comes back is shown. */
function useAccountChange<V>(change: (input: V) => Promise<Account>) {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: change,
    onSuccess: (next) => cache.setQueryData(keys.account, next),
  })
}

function Mail({ account }: { account: Account }) {
  const [mail, setMail] = useState('')
  const [old, setOld] = useState('')
  const ask = useAccountChange(() => call(api.POST('/api/account/mail', { body: { mail, old } })))
  return (
    <section>
      <h2 className="text-xl">{t`Mail address`}</h2>
      <p className="mt-1 mb-3 text-ink-2">
        {account.mail ? t`We write to ${account.mail}.` : t`None, so you get no mail.`}{' '}
        {t`We’ll send a link to the new address. It is used once you’ve opened the link.`}
      </p>
      {account.new_mail && (
        <p role="status" className="mb-3">
          {t`A link is on its way to`} <strong>{account.new_mail}</strong>.
        </p>
      )}
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          ask.mutate(undefined, { onSuccess: () => setOld('') })
        }}
      >
        <TextField
          label={t`New mail address`}
          fieldWidth="w-72"
          type="email"
          required
          maxLength={254}
          value={mail}
          onText={setMail}
        />
        <KnownPassword value={old} onText={setOld} />
        <Button type="submit" disabled={ask.isPending}>{t`Send the link`}</Button>
        <Problem error={ask.error} />
      </form>
    </section>
  )
}

function Password({ account }: { account: Account }) {
  const [old, setOld] = useState('')
  const [password, setPassword] = useState('')
  const change = useAccountChange(() =>
    call(api.POST('/api/account/password', { body: { old, password } })),
  )
  return (
    <section>
      <h2 className="text-xl">{t`Password`}</h2>
      <p className="mt-1 mb-3 text-ink-2">
        {t`Your user name is`} <strong>{account.username}</strong>
        {account.mail && t` or with your mail address`}
        {t`. A new password signs you out everywhere else.`}
      </p>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          change.mutate(undefined, {
            onSuccess: () => {
              setOld('')
              setPassword('')
            },
          })
        }}
      >
        <KnownPassword value={old} onText={setOld} />
        <NewPassword label={t`New password`} value={password} onText={setPassword} />
        <Button type="submit" disabled={change.isPending}>{t`Change it`}</Button>
        <span role="status">{change.isSuccess && t`Changed.`}</span>
        <Problem error={change.error} />
      </form>
    </section>
  )
}

function Sessions({ account }: { account: Account }) {
  const end = useAccountChange((_: undefined) => call(api.DELETE('/api/account/sessions')))
  return (
    <section>
      <h2 className="text-xl">{t`Where you are signed in`}</h2>
      <ul className="mt-2 mb-3">
        {account.sessions.map((one) => (
          <li
            key={`${one.since}${one.agent}${one.address}`}
            className="flex flex-wrap gap-x-5 border-b border-line py-2"
          >
            <span className="font-semibold">
              {agentWords(one.agent)}
              {one.here && t`, this one`}
            </span>
            <span className="text-ink-2">
              {one.since && t`since ${moment(one.since)}`}
              {one.address && t`, from ${one.address}`}
            </span>
          </li>
        ))}
      </ul>
      <Button
        disabled={end.isPending}
        onClick={() => end.mutate(undefined)}
      >{t`Sign out everywhere else`}</Button>
      <span role="status" className="ml-4">
        {end.isSuccess && t`Only this browser is signed in now.`}
      </span>
      <Problem error={end.error} />
    </section>
  )
}

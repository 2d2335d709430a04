import { t } from '@lingui/core/macro'
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { api, call, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import { NewPassword } from '../roles/common/Passwords'
import { Button, buttonClass } from '../ui/Button'
import { Problem, TextField } from '../ui/Field'
import { Loaded } from '../ui/states'
import { Outside } from './Outside'

type Mailed = Schemas['LinkOpenOut']
type Used = Schemas['LinkUsedOut']

const mailedQuery = (token: string) =>
  queryOptions({
    queryKey: keys.mailed(token),
    queryFn: () => call(api.GET('/api/open/{token}', { params: { path: { token } } })),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  })

/** What a mailed link opens: an account of one's own, a new password, another mail address. */
export default function MailedPage() {
  const token = useParams().token ?? ''
  const query = useQuery(mailedQuery(token))
  return (
    <Loaded query={query} what={t`what this link opens`}>
      {(mailed) => <Opened token={token} mailed={mailed} />}
    </Loaded>
  )
}

const TITLES: Record<Mailed['kind'], string> = {
  welcome: t`Your account`,
  reset: t`A new password`,
  mail: t`Your new mail address`,
  undo: t`Keep your old mail address`,
}

function Opened({ token, mailed }: { token: string; mailed: Mailed }) {
  const [username, setUsername] = useState(mailed.username)
  const [password, setPassword] = useState('')
  const cache = useQueryClient()
  const use = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/open/{token}', {
          params: { path: { token } },
          body: { username, password },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.session }),
  })
  const { kind } = mailed
  return (
    <Outside title={kind === 'welcome' ? t`Welcome, ${mailed.name}` : TITLES[kind]}>
      {use.data ? (
        <Done used={use.data} mail={mailed.mail} />
      ) : (
        <form
          className="mt-3 grid justify-items-start gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            use.mutate()
          }}
        >
          <p className="text-ink-2">{INTRO[kind](mailed)}</p>
          {kind === 'welcome' && (
            <TextField
              label={t`User name`}
              className="w-full"
              autoComplete="username"
              required
              minLength={3}
              maxLength={60}
              value={username}
              onText={setUsername}
            />
          )}
          {(kind === 'welcome' || kind === 'reset') && (
            <NewPassword
              label={t`Password: at least eight characters, and hard to guess`}
              className="w-full"
              value={password}
              onText={setPassword}
            />
          )}
          <Problem error={use.error} />
          <Button type="submit" kind="strong" disabled={use.isPending}>
            {VERB[kind]}
          </Button>
        </form>
      )}
    </Outside>
  )
}

const INTRO: Record<Mailed['kind'], (mailed: Mailed) => string> = {
  welcome: ({ consent }) =>
    consent
      ? t`Choose a name and a password. We’ve also written to your guardian: the account works once they agree.`
      : t`Choose a name and a password.`,
  reset: ({ name }) => t`For ${name}. You’ll be signed out everywhere else.`,
  mail: ({ name, mail }) => t`${name}, we’ll write to ${mail} from now on.`,
  undo: ({ name, mail }) =>
    t`${name}, we’ll write to ${mail} again. Everybody who is signed in to your account will be signed out, and we’ll send a link to this address so that you can choose a new password.`,
}
const VERB: Record<Mailed['kind'], string> = {
  welcome: t`Activate account`,
  reset: t`Save password`,
  mail: t`Use this address`,
  undo: t`Keep the old address`,
}

function Done({ used, mail }: { used: Used; mail: string }) {
  const says =
    used.kind === 'mail'
      ? t`Done. We’ll write to ${mail}.`
      : used.kind === 'undo'
        ? t`Done. We’ll write to ${mail} again. Open the mail we’ve just sent there to choose a new password.`
        : used.waits
          ? t`Done. You can sign in as soon as your guardian agrees. We’ve sent them a mail.`
          : used.signed_in
            ? t`Done. You are signed in.`
            : t`Done. Sign in with the new password.`
  return (
    <div className="mt-3">
      <p role="status">{says}</p>
      {!used.waits && (
        <Link to="/" className={`${buttonClass('strong')} mt-5`}>
          {used.signed_in ? t`Start` : t`To Vendaval`}
        </Link>
      )}
    </div>
  )
}

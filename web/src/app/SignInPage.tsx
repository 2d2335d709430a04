import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { type Session, useDemoSignIn, useSignIn } from '../account/session'
import { ApiError } from '../api/client'
import { Button } from '../ui/Button'
import { Mark } from '../ui/Mark'
import { TextLink } from '../ui/TextLink'
import { useTitle } from '../ui/useTitle'

const field = 'mt-1 w-full rounded-lg border border-edge bg-sheet px-3 py-2.5'

export default function SignInPage({ demo }: { demo: Session['demo_accounts'] }) {
  useTitle(t`Sign in`)
  const [username, setUsername] = useState('')
  const [password, setPassword] = useState('')
  const [code, setCode] = useState('')
  const signIn = useSignIn()
  const demoSignIn = useDemoSignIn()
  const error = signIn.error ?? demoSignIn.error
  const factor = error instanceof ApiError && error.code.startsWith('second_factor')
  return (
    <div className="min-h-dvh @3xl:grid @3xl:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      <header className="on-deep bg-deep px-6 py-8 text-on-deep @3xl:px-12 @3xl:py-14">
        <p className="flex items-center gap-3 font-heading text-3xl font-bold">
          <Mark size={38} /> {t`vendaval`}
        </p>
        <p className="mt-6 max-w-sm text-lg text-on-deep-2 @3xl:mt-16 @3xl:text-xl">{t`Find out where you stand, work on what matters most, and see when you have reached the target.`}</p>
        <div aria-hidden="true" className="mt-12 hidden max-w-sm @3xl:block">
          <SampleBar />
          <p className="mt-3 text-on-deep-2">{t`The bar shows the likely range, the needle your level, the post your target.`}</p>
        </div>
      </header>
      <main id="main" className="max-w-xl px-6 py-8 @3xl:px-14 @3xl:py-14">
        <h1 className="text-3xl">{t`Sign in`}</h1>
        {error && (
          <p role="alert" className="mt-4 rounded-lg bg-wrong-soft p-3 text-wrong">
            {error.message}
          </p>
        )}
        {demo.length > 0 && (
          <section aria-labelledby="demo" className="mt-6">
            <h2 id="demo" className="text-lg">{t`Try it as`}</h2>
            <ul className="mt-2 divide-y divide-line border-y border-line">
              {demo.map((account) => (
                <li key={account.username}>
                  <button
                    type="button"
                    disabled={demoSignIn.isPending}
                    onClick={() => demoSignIn.mutate(account.username)}
                    className="w-full px-2 py-3.5 text-left hover:bg-sheet"
                  >
                    <span className="font-semibold text-gust">{account.name}</span>
                    <span className="block text-ink-2">{account.note}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
        {demo.length > 0 && (
          <p className="mt-3">
            <TextLink to="/outbox">{t`Mails we would have sent`}</TextLink>
          </p>
        )}
        <form
          className="mt-8"
          onSubmit={(event) => {
            event.preventDefault()
            signIn.mutate({ username, password, code })
          }}
        >
          <h2 className="text-lg">
            {demo.length > 0 ? t`Or with your own account` : t`With your account`}
          </h2>
          <label className="mt-3 block">
            {t`User name or mail address`}
            <input
              className={field}
              autoComplete="username"
              required
              value={username}
              onChange={(e) => setUsername(e.target.value)}
            />
          </label>
          <label className="mt-3 block">
            {t`Password`}
            <input
              className={field}
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          </label>
          {(factor || code !== '') && (
            <label className="mt-3 block">
              {t`Six-digit code from your device`}
              <input
                className={field}
                autoComplete="one-time-code"
                inputMode="numeric"
                required
                maxLength={20}
                value={code}
                onChange={(e) => setCode(e.target.value)}
              />
            </label>
          )}
          <div className="mt-5 flex flex-wrap items-center gap-5">
            <Button type="submit" kind="strong" disabled={signIn.isPending}>{t`Sign in`}</Button>
            <TextLink to="/forgotten">{t`I’ve forgotten my password`}</TextLink>
          </div>
        </form>
      </main>
    </div>
  )
}

/** The drift bar as a picture, for the sign-in page only. */
function SampleBar() {
  return (
    <svg aria-hidden="true" className="block w-full overflow-visible" height="48">
      <line
        x1="0"
        x2="100%"
        y1="24"
        y2="24"
        stroke="var(--v-on-deep-2)"
        strokeOpacity="0.6"
        strokeWidth="1.5"
      />
      {[22, 34, 47].map((x, i) => (
        <circle
          key={x}
          cx={`${x}%`}
          cy="24"
          r="4"
          fill="var(--v-on-deep-2)"
          opacity={0.35 + i * 0.25}
        />
      ))}
      <rect x="53%" width="31%" y="14" height="20" rx="10" fill="#8fb6dd" />
      <rect x="68%" width="3" y="10" height="28" rx="1.5" fill="#ffffff" />
      <rect x="80%" width="4" y="6" height="36" fill="var(--v-sun)" />
    </svg>
  )
}

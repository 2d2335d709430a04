import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { day } from '../../ui/words'
import { outboxQuery } from './queries'

/** The simulated outbox of the demo: mails as they would have gone out. */
export default function OutboxPage() {
  useTitle(t`Outbox`)
  const query = useQuery(outboxQuery)
  return (
    <main id="main" className="mx-auto max-w-3xl px-5 py-8">
      <p>
        <TextLink to="/">{t`To Vendaval`}</TextLink>
      </p>
      <h1 className="mt-2 text-3xl">{t`Outbox of the demo`}</h1>
      <p className="mt-1 text-ink-2">{t`No mail server is set up here. This list shows the mails we would have sent.`}</p>
      <Loaded query={query} what={t`the outbox`}>
        {({ letters }) =>
          letters.length === 0 ? (
            <p className="mt-6">{t`No mails yet.`}</p>
          ) : (
            <ul className="mt-6 grid gap-5">
              {letters.map((letter) => (
                <li key={letter.id} className="rounded-box bg-sheet p-5">
                  <h2 className="text-lg">{letter.subject}</h2>
                  <p className="text-sm text-ink-2">{t`to ${letter.to}, ${day(letter.at)}`}</p>
                  <pre className="mt-3 font-sans whitespace-pre-wrap">{letter.body}</pre>
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </main>
  )
}

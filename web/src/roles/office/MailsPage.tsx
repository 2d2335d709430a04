import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { TextField } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, moment } from '../../ui/words'
import { Older } from './Older'
import { mailsQuery } from './queries'
import { useFilter } from './useFilter'

/** Mails that went out. */
export default function MailsPage() {
  useTitle(t`Mails`)
  const { get, set } = useFilter()
  const filter = {
    ...(get('text') && { text: get('text') }),
    ...(get('older') && { older: Number(get('older')) }),
  }
  const query = useQuery(mailsQuery(filter))
  return (
    <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Mails`}</h1>
      <Loaded query={query} what={t`mails`}>
        {({ letters, older, kept, waiting }) => (
          <>
            <p className="mt-1 text-ink-2">
              {kept
                ? t`No mail server is set up. Mails are listed here instead of being sent.`
                : t`A mail server sends the mails, and knows what became of them.`}{' '}
              {t`One-time links are hidden here. Only the person we sent them to can use them.`}
              {waiting > 0 &&
                t` ${capital(counted(waiting, 'invitation'))} still ${waiting === 1 ? 'waits' : 'wait'} to go out.`}
            </p>
            <search className="mt-5 block">
              <TextField
                label={t`Address or subject`}
                className="max-w-sm"
                type="search"
                maxLength={80}
                value={get('text')}
                onText={(text) => set({ text: text, older: '' })}
              />
            </search>
            {letters.length === 0 && <p className="mt-5">{t`No mails.`}</p>}
            <ul className="mt-4">
              {letters.map((letter) => (
                <li key={letter.id} className="border-b border-line py-2">
                  <details>
                    <summary className="cursor-pointer">
                      <strong>{letter.subject}</strong> {t`to ${letter.to}`}{' '}
                      <span className="text-ink-2">{moment(letter.at)}</span>
                    </summary>
                    <pre className="mt-2 font-sans whitespace-pre-wrap">{letter.body}</pre>
                  </details>
                </li>
              ))}
            </ul>
            <Older older={older} at="/office/mails" query={filter} />
          </>
        )}
      </Loaded>
    </main>
  )
}

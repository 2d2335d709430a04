import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { noticesQuery } from '../../account/notices'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Check } from '../../ui/Check'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { day } from '../../ui/words'
import { mailQuery } from './queries'

/** Messages of the account, and which of them come by mail. */
export default function MessagesPage() {
  useTitle(t`Messages`)
  const query = useQuery(noticesQuery)
  return (
    <main
      id="main"
      className="grid gap-x-12 gap-y-9 px-5 py-8 @5xl:grid-cols-[minmax(0,1fr)_24rem] @5xl:px-8"
    >
      <div className="min-w-0">
        <h1 className="text-3xl">{t`Messages`}</h1>
        <Loaded query={query} what={t`your messages`}>
          {(page) => <Notices first={page} />}
        </Loaded>
      </div>
      <MailChoices />
    </main>
  )
}

function Notices({ first }: { first: Schemas['NoticesOut'] }) {
  const cache = useQueryClient()
  const [more, setMore] = useState<Schemas['NoticesOut'][]>([])
  const newest = first.notices[0]?.id
  const read = useMutation({
    mutationFn: (upto: number) => call(api.POST('/api/notices/read', { body: { upto } })),
    onSuccess: (page) => cache.setQueryData(keys.notices, { ...page, notices: first.notices }),
  })
  const { mutate } = read
  useEffect(() => {
    if (first.unread > 0 && newest !== undefined) mutate(newest)
  }, [first.unread, newest, mutate])
  const older = useMutation({
    mutationFn: (id: number) => call(api.GET('/api/notices', { params: { query: { older: id } } })),
    onSuccess: (page) => setMore([...more, page]),
  })
  const shown = [...first.notices, ...more.flatMap((page) => page.notices)]
  const last = more.at(-1) ?? first
  if (shown.length === 0) return <p className="mt-4 text-ink-2">{t`No messages yet.`}</p>
  return (
    <>
      <ul className="mt-4">
        {shown.map((notice) => (
          <li key={notice.id} className="border-b border-line py-3">
            <p className="flex flex-wrap items-baseline justify-between gap-x-6">
              <TextLink to={notice.path} className="font-semibold">
                {!notice.read && (
                  <>
                    <span className="mr-2 rounded bg-sun px-1.5 text-sm text-deep">{t`new`}</span>{' '}
                  </>
                )}
                {notice.title}
              </TextLink>
              <span className="text-sm text-ink-2">{day(notice.at)}</span>
            </p>
            {notice.text && <p className="text-ink-2">{notice.text}</p>}
          </li>
        ))}
      </ul>
      {last.older !== null && (
        <Button
          className="mt-4"
          disabled={older.isPending}
          onClick={() => older.mutate(last.older ?? 0)}
        >{t`Older messages`}</Button>
      )}
    </>
  )
}

function MailChoices() {
  const query = useQuery(mailQuery)
  const cache = useQueryClient()
  const choose = useMutation({
    mutationFn: (unwanted: Schemas['MailChoicesIn']['unwanted']) =>
      call(
        api.PUT('/api/notices/mail', { body: { unwanted, version: query.data?.version ?? '' } }),
      ),
    onSuccess: (next) => cache.setQueryData(keys.mail, next),
    onError: () => void cache.invalidateQueries({ queryKey: keys.mail }),
  })
  return (
    <section aria-labelledby="by-mail">
      <h2 id="by-mail" className="text-xl">{t`By mail too`}</h2>
      <Loaded query={query} what={t`your mail settings`}>
        {(mail) => (
          <>
            <p className="mt-1 mb-2 text-ink-2">
              {mail.email
                ? t`At most one mail a day, to ${mail.email}. Messages you’ve already read are left out.`
                : t`Your account has no mail address, so we can’t send you mail.`}
            </p>
            <ul>
              {mail.choices.map((choice) => (
                <li key={choice.kind}>
                  <Check
                    on={choice.by_mail}
                    disabled={choose.isPending}
                    set={(on) =>
                      choose.mutate(
                        mail.choices
                          .filter((one) => (one.kind === choice.kind ? !on : !one.by_mail))
                          .map((one) => one.kind),
                      )
                    }
                  >
                    {choice.label}
                  </Check>
                </li>
              ))}
            </ul>
            <Problem error={choose.error} />
          </>
        )}
      </Loaded>
    </section>
  )
}

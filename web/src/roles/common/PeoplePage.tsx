import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { Account } from '../../account/session'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { day, longDay } from '../../ui/words'
import { CalendarLink } from './CalendarLink'
import { CodeForm } from './CodeForm'
import { type CopySource, DataCopy } from './DataCopy'
import { JoinForm } from './JoinForm'
import { OpenCourses } from './OpenCourses'
import { linksQuery } from './queries'

/** Codes to join by, guardians, and one's own data to take along. */
export default function PeoplePage({ account }: { account: Account }) {
  useTitle(t`Codes and links`)
  const query = useQuery(linksQuery)
  const learns = account.roles.includes('learner')
  return (
    <main id="main" className="grid max-w-4xl gap-9 px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Codes and links`}</h1>
      <section>
        <h2 className="text-xl">{t`Join a group`}</h2>
        <p className="mt-1 mb-3 text-ink-2">{t`Ask your tutor for a code. It adds you to the group and its course.`}</p>
        <JoinForm />
      </section>
      <OpenCourses />
      <Loaded query={query} what={t`your guardians`}>
        {(links) => (
          <>
            {learns && (
              <section>
                <h2 className="text-xl">{t`My guardians`}</h2>
                <p className="mt-1 mb-3 text-ink-2">{t`A guardian can see your levels and your record, but can’t change anything. You or your guardian can end this.`}</p>
                <Links links={links.guardians} none={t`You have no guardian here.`} />
                <GuardianCode />
              </section>
            )}
            <section>
              <h2 className="text-xl">{t`Learners I’m a guardian of`}</h2>
              <p className="mt-1 mb-3 text-ink-2">{t`Ask the learner for a code.`}</p>
              <Links links={links.wards} none={t`No learners linked yet.`} />
              <WardForm />
            </section>
          </>
        )}
      </Loaded>
      {learns && <CalendarLink />}
      <section>
        <h2 className="text-xl">{t`My own data`}</h2>
        <p className="mt-1 mb-3 max-w-2xl text-ink-2">{t`Everything we store about you, as files: your answers, levels and messages, and your record as a spreadsheet and as open learning records. Results of tests that you can’t see yet are left out.`}</p>
        <DataCopy source={OWN_DATA} ask={t`Prepare a copy of my data`} />
      </section>
    </main>
  )
}

const OWN_DATA: CopySource = {
  key: keys.ownData,
  read: () => call(api.GET('/api/own-data')),
  ask: () => call(api.POST('/api/own-data')),
  file: '/api/own-data/file',
}

function Links({ links, none }: { links: Schemas['LinkOut'][]; none: string }) {
  const cache = useQueryClient()
  const end = useMutation({
    mutationFn: (link_id: number) =>
      call(api.DELETE('/api/links/{link_id}', { params: { path: { link_id } } })),
    onSuccess: (next) => {
      cache.setQueryData(keys.links, next)
      void cache.invalidateQueries({ queryKey: keys.wards })
    },
  })
  if (links.length === 0) return <p className="mb-3">{none}</p>
  return (
    <ul className="mb-3">
      {links.map((link) => (
        <li key={link.id} className="flex flex-wrap items-center gap-x-5 border-b border-line py-1">
          <span className="font-semibold">{link.name}</span>
          <span className="text-ink-2">{t`since ${day(link.since)}`}</span>
          <Button kind="quiet" disabled={end.isPending} onClick={() => end.mutate(link.id)}>
            {t`End`}
            <span className="sr-only"> {t`the link with ${link.name}`}</span>
          </Button>
        </li>
      ))}
    </ul>
  )
}

function GuardianCode() {
  const make = useMutation({ mutationFn: () => call(api.POST('/api/links/code')) })
  return (
    <div className="flex flex-wrap items-center gap-4">
      <Button
        disabled={make.isPending}
        onClick={() => make.mutate()}
      >{t`Make a code for a guardian`}</Button>
      {make.data && (
        <p role="status">
          <strong className="font-heading text-2xl tracking-wider tabular-nums">
            {make.data.code}
          </strong>{' '}
          <span className="text-ink-2">{t`works once, until ${longDay(make.data.ends_at)}`}</span>
        </p>
      )}
      <Problem error={make.error} />
    </div>
  )
}

function WardForm() {
  const cache = useQueryClient()
  const link = useMutation({
    mutationFn: (code: string) => call(api.POST('/api/links', { body: { code } })),
    onSuccess: (next) => {
      cache.setQueryData(keys.links, next)
      void cache.invalidateQueries({ queryKey: keys.wards })
      void cache.invalidateQueries({ queryKey: keys.session })
    },
  })
  return <CodeForm label={t`Learner’s code`} verb={t`Link learner`} send={link} />
}

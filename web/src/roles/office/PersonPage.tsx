import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { ChangedNote, plain } from '../../account/ChangedNote'
import { useEdit } from '../../account/useEdit'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Check } from '../../ui/Check'
import { DateField } from '../../ui/DateField'
import { Problem, SaveRow, TextField } from '../../ui/Field'
import { KeptNote } from '../../ui/KeptNote'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { longDay, moment } from '../../ui/words'
import { type CopySource, DataCopy } from '../common/DataCopy'
import { DeletePerson } from './DeletePerson'
import { Guardians } from './Guardians'
import { Places } from './Places'
import { type Person, personCalls, personQuery, usePersonChange, useShownAnew } from './queries'
import { Writes } from './Writes'
import { ACCOUNT_WORDS, ROLE_LIST, ROLE_WORDS } from './words'

/** One person, with everything the office may see and do. */
export default function PersonPage() {
  const id = Number(useParams().person)
  const query = useQuery(personQuery(id))
  return (
    <Loaded query={query} what={t`this person`}>
      {(person) => <Opened key={person.id} person={person} />}
    </Loaded>
  )
}

function Opened({ person }: { person: Person }) {
  useTitle(person.name)
  return (
    <main id="main" className="grid max-w-4xl gap-9 px-5 py-8 @5xl:px-8">
      <header>
        <p>
          <TextLink to="/office/people">{t`People`}</TextLink>
        </p>
        <h1 className="text-3xl">{person.name}</h1>
        <p className="mt-1 text-ink-2">
          <strong>{ACCOUNT_WORDS[person.state]}</strong>
          {person.username && t`, user name ${person.username}`}
          {person.last_here && t`, last on ${longDay(person.last_here)}`}
          {t`. Joined ${longDay(person.since)}.`}
        </p>
      </header>
      {!person.present && (
        <p
          role="status"
          className="max-w-2xl"
        >{t`This person has left your school. You can read their record, but not change it.`}</p>
      )}
      {person.present && <AccountActions person={person} />}
      {person.present && <Data person={person} />}
      {(person.roles.includes('learner') || person.roles.includes('tutor')) && (
        <Places person={person} />
      )}
      {person.roles.includes('learner') && <Guardians person={person} />}
      {person.wards.length > 0 && (
        <section>
          <h2 className="text-xl">{t`Guardian of`}</h2>
          <ul className="mt-1">
            {person.wards.map((ward) => (
              <li key={ward.id}>
                <TextLink to={`/office/people/${ward.person}`}>{ward.name}</TextLink>
              </li>
            ))}
          </ul>
        </section>
      )}
      {person.present && <DeletePerson person={person} />}
    </main>
  )
}

/** What waits to be done with the account, and what can be. */
function AccountActions({ person }: { person: Person }) {
  const calls = personCalls(person.id)
  const write = usePersonChange(calls.write)
  const close = usePersonChange(calls.close)
  const reopen = usePersonChange(calls.reopen)
  const signOut = usePersonChange(calls.signOut)
  const endFactor = usePersonChange(calls.endFactor)
  const all = [write, close, reopen, signOut, endFactor]
  const busy = all.some((one) => one.isPending)
  const { link, state } = person
  return (
    <section>
      <h2 className="sr-only">{t`Account`}</h2>
      {link && (
        <p className="mb-3">
          {link.kind === 'welcome' ? t`The invitation` : t`The link for a new password`}{' '}
          {link.mailed_at ? t`was sent ${moment(link.mailed_at)}` : t`has not been sent yet`}
          {link.used_at
            ? t` and used ${moment(link.used_at)}.`
            : t` and works until ${moment(link.ends_at)}.`}
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        {state !== 'closed' && person.mail && (
          <Button disabled={busy} onClick={() => write.mutate()}>
            {state === 'invited' ? t`Invite again` : t`Send a link for a new password`}
          </Button>
        )}
        {person.sessions > 0 && (
          <Button
            disabled={busy}
            onClick={() => signOut.mutate()}
          >{t`Sign out everywhere (${person.sessions})`}</Button>
        )}
        {person.factor && (
          <Button
            disabled={busy}
            onClick={() => endFactor.mutate()}
          >{t`Turn off two-step sign-in`}</Button>
        )}
        {!person.own &&
          (state === 'closed' ? (
            <Button disabled={busy} onClick={() => reopen.mutate()}>{t`Reopen account`}</Button>
          ) : (
            <Button disabled={busy} onClick={() => close.mutate()}>{t`Close account`}</Button>
          ))}
      </div>
      <div className="mt-3">
        <DataCopy source={dataOf(person.id)} ask={t`Prepare a copy of their data`} />
      </div>
      <p role="status" className="mt-2">
        {write.isSuccess && t`We’ve sent a mail to ${person.mail}.`}
      </p>
      <Problem error={all.find((one) => one.error)?.error ?? null} />
    </section>
  )
}

const dataOf = (person_id: number): CopySource => {
  const params = { path: { person_id } }
  return {
    key: keys.personData(person_id),
    read: () => call(api.GET('/api/office/people/{person_id}/data', { params })),
    ask: () => call(api.POST('/api/office/people/{person_id}/data', { params })),
    file: `/api/office/people/${person_id}/data/file`,
  }
}

const dataOfPerson = ({ name, mail, born, roles, writes }: Person) => ({
  name,
  mail,
  born,
  roles,
  writes,
})

const LABELS: Record<string, string> = {
  name: t`Name`,
  mail: t`Mail address`,
  born: t`Date of birth`,
  roles: t`Roles`,
  writes: t`Writes for`,
}

function Data({ person }: { person: Person }) {
  const shownAnew = useShownAnew()
  const edit = useEdit({
    place: `person:${person.id}`,
    opened: dataOfPerson(person),
    version: person.version,
    save: (form, version) => personCalls(person.id).change({ ...form, version }),
    stands: (next) => ({ form: dataOfPerson(next), version: next.version }),
    onSaved: shownAnew,
  })
  const { form: now, set } = edit
  return (
    <section>
      <h2 className="text-xl">{t`Name, mail and roles`}</h2>
      <form
        className="mt-3 grid gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          edit.save()
        }}
      >
        <div className="grid gap-4 @3xl:grid-cols-3">
          <TextField
            label={t`Name`}
            required
            maxLength={80}
            value={now.name}
            onText={(text) => set({ name: text })}
          />
          <TextField
            label={t`Mail address`}
            type="email"
            maxLength={254}
            value={now.mail}
            onText={(text) => set({ mail: text })}
          />
          <DateField
            label={t`Date of birth`}
            day={now.born ?? null}
            onDay={(day) => set({ born: day })}
          />
        </div>
        <fieldset className="flex flex-wrap gap-x-6">
          <legend className="text-sm text-ink-2">{t`Roles`}</legend>
          {ROLE_LIST.map((role) => (
            <Check
              key={role}
              on={now.roles.includes(role)}
              set={(on) =>
                set({
                  roles: on ? [...now.roles, role].sort() : now.roles.filter((one) => one !== role),
                })
              }
            >
              {ROLE_WORDS[role]}
            </Check>
          ))}
        </fieldset>
        {now.roles.includes('author') && (
          <Writes writes={now.writes} onChange={(writes) => set({ writes })} />
        )}
        <KeptNote restored={edit.restored} onDiscard={edit.discard} />
        <ChangedNote
          conflict={edit.conflict}
          label={(path) => LABELS[path] ?? path}
          words={(path, value) =>
            Array.isArray(value)
              ? value.map((one) => ROLE_WORDS[one as Person['roles'][number]] ?? one).join(', ')
              : plain(path, value)
          }
        />
        <SaveRow save={edit} />
      </form>
    </section>
  )
}

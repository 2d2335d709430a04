import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { Button } from '../../ui/Button'
import { Problem, TextField } from '../../ui/Field'
import { TextLink } from '../../ui/TextLink'
import { moment } from '../../ui/words'
import { type Person, personCalls, usePersonChange } from './queries'

/** Who reads a learner's pages, and what guardians said. */
export function Guardians({ person }: { person: Person }) {
  const calls = personCalls(person.id)
  const end = usePersonChange(calls.endGuardian)
  return (
    <section>
      <h2 className="text-xl">{t`Guardians and consent`}</h2>
      {person.guardians.length === 0 && (
        <p className="mt-1 text-ink-2">{t`No guardians linked.`}</p>
      )}
      <ul className="mt-1 mb-4">
        {person.guardians.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center gap-x-5 border-b border-line py-1"
          >
            <TextLink to={`/office/people/${one.person}`} className="font-semibold">
              {one.name}
            </TextLink>
            <span className="text-ink-2">
              {one.vouched
                ? t`added by the office: can give consent`
                : t`linked with the learner’s code: can only read`}
            </span>
            <Button kind="quiet" disabled={end.isPending} onClick={() => end.mutate(one.id)}>
              {t`End`}
              <span className="sr-only"> {t`the link with ${one.name}`}</span>
            </Button>
          </li>
        ))}
      </ul>
      <NameGuardian person={person} />
      {(person.born || person.consents.length > 0) && <Consents person={person} />}
      <Problem error={end.error} />
    </section>
  )
}

function NameGuardian({ person }: { person: Person }) {
  const [name, setName] = useState('')
  const [mail, setMail] = useState('')
  const link = usePersonChange(personCalls(person.id).guardian)
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        link.mutate(
          { name, mail },
          {
            onSuccess: () => {
              setName('')
              setMail('')
            },
          },
        )
      }}
    >
      <TextField label={t`Guardian’s name`} required maxLength={80} value={name} onText={setName} />
      <TextField
        label={t`Guardian’s mail address`}
        type="email"
        required
        maxLength={254}
        value={mail}
        onText={setMail}
      />
      <Button type="submit" disabled={link.isPending}>{t`Name as guardian`}</Button>
      <Problem error={link.error} />
    </form>
  )
}

function Consents({ person }: { person: Person }) {
  const [guardian, setGuardian] = useState(person.guardians[0]?.name ?? '')
  const note = usePersonChange(personCalls(person.id).consent)
  const agreed = person.consents[0]?.agreed ?? false
  return (
    <>
      {person.consents.length > 0 && (
        <ul className="mt-5">
          {person.consents.map((one) => (
            <li key={one.at} className="border-b border-line py-2">
              <p>
                <strong>{one.named}</strong> {one.agreed ? 'agreed' : t`withdrew consent`},{' '}
                {moment(one.at)}
                {one.on_paper && t`, on paper, recorded by ${one.noted_by ?? t`the office`}`}
              </p>
              <p className="text-sm text-ink-2">{one.wording}</p>
            </li>
          ))}
        </ul>
      )}
      <form
        className="mt-4 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          note.mutate({ agreed: !agreed, guardian })
        }}
      >
        <TextField
          label={agreed ? t`Who withdrew consent (on paper)` : t`Who gave consent (on paper)`}
          required
          maxLength={80}
          value={guardian}
          onText={setGuardian}
        />
        <Button type="submit" disabled={note.isPending}>
          {agreed ? t`Record withdrawal of consent` : t`Record consent`}
        </Button>
        <Problem error={note.error} />
      </form>
    </>
  )
}

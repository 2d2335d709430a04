import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { DateField } from '../../ui/DateField'
import { Problem, TextField } from '../../ui/Field'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { Pick } from '../composing/Pick'
import { invitePerson, officeGroupsQuery, type Role, schoolQuery } from './queries'
import { ROLE_LIST, ROLE_WORDS } from './words'

const ROLES = ROLE_LIST.map((role): [string, string] => [role, ROLE_WORDS[role]])
const EMPTY: Schemas['InviteIn'] = {
  name: '',
  mail: '',
  role: 'learner',
  group: null,
  born: null,
  guardian_name: '',
  guardian_mail: '',
}

/** One person to invite; a young learner with their guardian. */
export default function InvitePage() {
  useTitle(t`Invite a person`)
  const [wanted, setWanted] = useState(EMPTY)
  const set = (next: Partial<typeof EMPTY>) => setWanted({ ...wanted, ...next })
  const groups = useQuery(officeGroupsQuery).data?.groups ?? []
  const school = useQuery(schoolQuery).data
  const cache = useQueryClient()
  const navigate = useNavigate()
  const invite = useMutation({
    mutationFn: () => invitePerson(wanted),
    onSuccess: (person) => {
      void cache.invalidateQueries({ queryKey: keys.office })
      cache.setQueryData(keys.person(person.id), person)
      navigate(`/office/people/${person.id}`)
    },
  })
  const learner = wanted.role === 'learner'
  const placed = learner || wanted.role === 'tutor'
  return (
    <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to="/office/people">{t`People`}</TextLink>
      </p>
      <h1 className="text-3xl">{t`Invite a person`}</h1>
      <p className="mt-1 text-ink-2">{t`We send them a mail with a link. It works once, for two weeks, and they choose a password there.`}</p>
      <form
        className="mt-5 grid gap-5"
        onSubmit={(event) => {
          event.preventDefault()
          invite.mutate()
        }}
      >
        <div className="grid gap-4 @3xl:grid-cols-2">
          <TextField
            label={t`Display name`}
            required
            maxLength={80}
            value={wanted.name}
            onText={(text) => set({ name: text })}
          />
          <TextField
            label={t`Mail address`}
            type="email"
            required
            maxLength={254}
            value={wanted.mail}
            onText={(text) => set({ mail: text })}
          />
        </div>
        <div className="flex flex-wrap gap-4">
          <Pick
            label={t`Role`}
            options={ROLES}
            value={wanted.role}
            onChange={(role) => set({ ...EMPTY, ...named(wanted), role: role as Role })}
          />
          {placed && (
            <Pick
              label={learner ? t`Course` : t`Teaches`}
              options={[
                ['', t`no group yet`],
                ...groups.map((group): [string, string] => [
                  String(group.id),
                  `${group.title}, ${group.course_title}`,
                ]),
              ]}
              value={String(wanted.group ?? '')}
              onChange={(text) => set({ group: Number(text) || null })}
            />
          )}
          {learner && (
            <DateField
              label={t`Date of birth (if under age)`}
              day={wanted.born ?? null}
              onDay={(day) => set({ born: day })}
            />
          )}
        </div>
        {learner && (
          <fieldset>
            <legend className="font-semibold">{t`Guardian`}</legend>
            <p className="text-ink-2">
              {school && school.consent_until > 0
                ? t`Under ${school.consent_until}, the account works once a guardian agrees. We write to them too.`
                : t`A guardian can see the learner’s pages.`}
            </p>
            <div className="mt-2 grid gap-4 @3xl:grid-cols-2">
              <TextField
                label={t`Guardian’s name`}
                maxLength={80}
                value={wanted.guardian_name}
                onText={(text) => set({ guardian_name: text })}
              />
              <TextField
                label={t`Guardian’s mail address`}
                type="email"
                maxLength={254}
                value={wanted.guardian_mail}
                onText={(text) => set({ guardian_mail: text })}
              />
            </div>
          </fieldset>
        )}
        <Problem error={invite.error} />
        <Button
          type="submit"
          kind="strong"
          className="justify-self-start"
          disabled={invite.isPending}
        >
          {t`Invite`} {wanted.name || 'them'}
        </Button>
      </form>
    </main>
  )
}

const named = ({ name, mail }: typeof EMPTY) => ({ name, mail })

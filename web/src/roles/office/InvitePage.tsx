import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Input, Labelled, Problem } from '../../ui/Field'
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
  useTitle('Invite somebody')
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
        <Link to="/office/people" className="text-gust hover:underline">
          People
        </Link>
      </p>
      <h1 className="text-3xl">Invite somebody</h1>
      <p className="mt-1 text-ink-2">
        They get a mail with a link that works once, within two weeks, and choose a password there.
      </p>
      <form
        className="mt-5 grid gap-5"
        onSubmit={(event) => {
          event.preventDefault()
          invite.mutate()
        }}
      >
        <div className="grid gap-4 @3xl:grid-cols-2">
          <Labelled label="Name, as others see it">
            <Input
              required
              maxLength={80}
              value={wanted.name}
              onChange={(event) => set({ name: event.target.value })}
            />
          </Labelled>
          <Labelled label="Mail address">
            <Input
              type="email"
              required
              maxLength={254}
              value={wanted.mail}
              onChange={(event) => set({ mail: event.target.value })}
            />
          </Labelled>
        </div>
        <div className="flex flex-wrap gap-4">
          <Pick
            label="Role"
            options={ROLES}
            value={wanted.role}
            onChange={(role) => set({ ...EMPTY, ...named(wanted), role: role as Role })}
          />
          {placed && (
            <Pick
              label={learner ? 'Learns in' : 'Teaches'}
              options={[
                ['', 'no group yet'],
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
            <Labelled label="Born on, if young">
              <Input
                type="date"
                value={wanted.born ?? ''}
                onChange={(event) => set({ born: event.target.value || null })}
              />
            </Labelled>
          )}
        </div>
        {learner && (
          <fieldset>
            <legend className="font-semibold">Guardian</legend>
            <p className="text-ink-2">
              {school && school.consent_until > 0
                ? `Below ${school.consent_until} years the account works once a guardian agrees: they are written to as well.`
                : 'A guardian reads the learner’s pages.'}
            </p>
            <div className="mt-2 grid gap-4 @3xl:grid-cols-2">
              <Labelled label="Guardian’s name">
                <Input
                  maxLength={80}
                  value={wanted.guardian_name}
                  onChange={(event) => set({ guardian_name: event.target.value })}
                />
              </Labelled>
              <Labelled label="Guardian’s mail address">
                <Input
                  type="email"
                  maxLength={254}
                  value={wanted.guardian_mail}
                  onChange={(event) => set({ guardian_mail: event.target.value })}
                />
              </Labelled>
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
          Invite {wanted.name || 'them'}
        </Button>
      </form>
    </main>
  )
}

const named = ({ name, mail }: typeof EMPTY) => ({ name, mail })

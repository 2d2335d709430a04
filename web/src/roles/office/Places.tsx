import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { TextLink } from '../../ui/TextLink'
import { Pick } from '../composing/Pick'
import { officeGroupsQuery, type Person, personCalls, usePersonChange } from './queries'

/** Groups that somebody learns in or teaches. */
export function Places({ person }: { person: Person }) {
  const calls = personCalls(person.id)
  const put = usePersonChange(calls.putInto)
  const take = usePersonChange(calls.takeOut)
  const groups = useQuery(officeGroupsQuery).data?.groups ?? []
  const [chosen, setChosen] = useState('')
  const roles = (['learner', 'tutor'] as const).filter((role) => person.roles.includes(role))
  const options = roles.flatMap((role) =>
    groups
      .filter(({ id }) => !person.places.some((place) => place.group === id && place.role === role))
      .map((group): [string, string] => [
        `${role} ${group.id}`,
        `${role === 'tutor' ? 'teaches' : t`learner in`} ${group.title}, ${group.course_title}`,
      ]),
  )
  return (
    <section>
      <h2 className="text-xl">{t`Groups`}</h2>
      {person.places.length === 0 && <p className="mt-1 text-ink-2">{t`In no group.`}</p>}
      <ul className="mt-1 mb-3">
        {person.places.map((place) => (
          <li
            key={`${place.group} ${place.role}`}
            className="flex flex-wrap items-center gap-x-5 border-b border-line py-1"
          >
            <span>
              {place.role === 'tutor' ? t`Tutor of ` : t`Learner in `}
              <TextLink to={`/office/groups/${place.group}`} className="font-semibold">
                {place.title}
              </TextLink>
              , {place.course}
            </span>
            <Button kind="quiet" disabled={take.isPending} onClick={() => take.mutate(place.group)}>
              {t`Remove`}
              <span className="sr-only"> {t`of ${place.title}`}</span>
            </Button>
          </li>
        ))}
      </ul>
      {options.length > 0 && (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            const [role, group] = chosen.split(' ')
            if (role === 'learner' || role === 'tutor') put.mutate({ role, group: Number(group) })
            setChosen('')
          }}
        >
          <Pick
            label={t`Add to group`}
            options={[['', t`choose one`], ...options]}
            value={chosen}
            onChange={setChosen}
          />
          <Button type="submit" disabled={!chosen || put.isPending}>{t`Add`}</Button>
        </form>
      )}
      <Problem error={put.error ?? take.error} />
    </section>
  )
}

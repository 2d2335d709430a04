import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { ChangedNote, plain } from '../../account/ChangedNote'
import { useEdit } from '../../account/useEdit'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Check } from '../../ui/Check'
import { SaveRow, TextField } from '../../ui/Field'
import { KeptNote } from '../../ui/KeptNote'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, day } from '../../ui/words'
import { officeGroupQuery } from './queries'

/** A group: its name, who teaches it, and who learns in it. */
export default function OfficeGroupPage() {
  const id = Number(useParams().group)
  const query = useQuery(officeGroupQuery(id))
  return (
    <Loaded query={query} what={t`the group`}>
      {(group) => <Opened key={group.id} group={group} />}
    </Loaded>
  )
}

type Group = Schemas['OfficeGroupOut']

const ofGroup = (group: Group) => ({
  title: group.title,
  tutors: group.tutors.map((one) => one.person).sort((a, b) => a - b),
})

function Opened({ group }: { group: Group }) {
  useTitle(group.title)
  const cache = useQueryClient()
  const edit = useEdit({
    place: `office-group:${group.id}`,
    opened: ofGroup(group),
    version: group.version,
    save: (form, version) =>
      call(
        api.PUT('/api/office/groups/{group_id}', {
          params: { path: { group_id: group.id } },
          body: { ...form, version },
        }),
      ),
    stands: (next) => ({ form: ofGroup(next), version: next.version }),
    onSaved: (next) => {
      void cache.invalidateQueries({ queryKey: keys.office })
      cache.setQueryData(keys.officeGroup(group.id), next)
    },
  })
  const { title, tutors } = edit.form
  const setTutors = (next: number[]) => edit.set({ tutors: next.sort((a, b) => a - b) })
  const nameOf = (person: unknown) => group.staff.find((one) => one.person === person)?.name ?? ''
  return (
    <main id="main" className="grid max-w-4xl gap-8 px-5 py-8 @5xl:px-8">
      <header>
        <p>
          <TextLink to="/office/groups">{t`Groups`}</TextLink>
        </p>
        <h1 className="text-3xl">{group.title}</h1>
        <p className="mt-1 text-ink-2">
          {group.course_title}, {counted(group.learners.length, 'learner')}
        </p>
      </header>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          edit.save()
        }}
      >
        <TextField
          label={t`Name`}
          className="max-w-sm"
          required
          maxLength={80}
          value={title}
          onText={(text) => edit.set({ title: text })}
        />
        <fieldset>
          <legend className="text-sm text-ink-2">{t`Tutors`}</legend>
          {group.staff.length === 0 && <p>{t`There are no tutors yet. Invite one first.`}</p>}
          {group.staff.map((one) => (
            <Check
              key={one.person}
              on={tutors.includes(one.person)}
              set={(on) =>
                setTutors(on ? [...tutors, one.person] : tutors.filter((pk) => pk !== one.person))
              }
            >
              {one.name}
            </Check>
          ))}
        </fieldset>
        <KeptNote restored={edit.restored} onDiscard={edit.discard} />
        <ChangedNote
          conflict={edit.conflict}
          label={(path) => (path === 'title' ? t`Name` : t`Tutors`)}
          words={(path, value) =>
            Array.isArray(value) ? value.map(nameOf).join(', ') || 'nobody' : plain(path, value)
          }
        />
        <SaveRow save={edit} strong />
      </form>
      <section>
        <h2 className="text-xl">
          {group.learners.length
            ? capital(counted(group.learners.length, 'learner'))
            : t`No learners yet`}
        </h2>
        <ul className="mt-1">
          {group.learners.map((one) => (
            <li key={one.person} className="flex flex-wrap gap-x-5 border-b border-line py-2">
              <TextLink to={`/office/people/${one.person}`} className="font-semibold">
                {one.name}
              </TextLink>
              <span className="text-ink-2">{t`since ${day(one.since)}`}</span>
            </li>
          ))}
        </ul>
      </section>
    </main>
  )
}

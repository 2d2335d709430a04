import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem, TextField } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted } from '../../ui/words'
import { GroupLine } from '../common/GroupLine'
import { Pick } from '../composing/Pick'
import { officeGroupsQuery, schoolQuery } from './queries'

/** Every group of the school, and a new one. */
export default function OfficeGroupsPage() {
  useTitle(t`Groups`)
  const query = useQuery(officeGroupsQuery)
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Groups`}</h1>
      <Loaded query={query} what={t`groups`}>
        {({ groups }) => (
          <ul className="mt-3">
            {groups.map((group) => (
              <GroupLine key={group.id} to={`/office/groups/${group.id}`} title={group.title}>
                {group.course_title}, {counted(group.learners, 'learner')},{' '}
                {group.tutors.length ? t`tutors: ${group.tutors.join(', ')}` : t`no tutor`}
              </GroupLine>
            ))}
          </ul>
        )}
      </Loaded>
      <NewGroup />
    </main>
  )
}

function NewGroup() {
  const courses = useQuery(schoolQuery).data?.courses ?? []
  const [title, setTitle] = useState('')
  const [chosen, setChosen] = useState('')
  const course = chosen || courses[0]?.key || ''
  const cache = useQueryClient()
  const navigate = useNavigate()
  const make = useMutation({
    mutationFn: () => call(api.POST('/api/office/groups', { body: { course, title } })),
    onSuccess: (group) => {
      void cache.invalidateQueries({ queryKey: keys.office })
      navigate(`/office/groups/${group.id}`)
    },
  })
  return (
    <form
      className="mt-6 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        make.mutate()
      }}
    >
      <TextField
        label={t`Name of the new group`}
        required
        maxLength={80}
        value={title}
        onText={setTitle}
      />
      <Pick
        label={t`Course`}
        options={courses.map((one): [string, string] => [one.key, one.title])}
        value={course}
        onChange={setChosen}
      />
      <Button type="submit" disabled={!course || make.isPending}>{t`Add group`}</Button>
      <Problem error={make.error} />
    </form>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { counted } from '../../../ui/words'
import { GroupLine } from '../../common/GroupLine'
import { groupsQuery } from '../queries'

/** The groups of a tutor; a single one opens at once. */
export default function GroupsPage() {
  useTitle(t`Groups`)
  const query = useQuery(groupsQuery)
  return (
    <Loaded query={query} what={t`your groups`}>
      {({ groups }) => {
        const [only] = groups
        if (only && groups.length === 1) return <Navigate to={`/tutor/groups/${only.id}`} replace />
        return (
          <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
            <h1 className="text-3xl">
              {groups.length ? t`Your groups` : t`You have no groups at present`}
            </h1>
            <ul className="mt-4">
              {groups.map((group) => (
                <GroupLine key={group.id} to={`/tutor/groups/${group.id}`} title={group.title}>
                  {group.course_title}, {counted(group.learners, 'learner')}
                  {group.waiting > 0 && t`, ${group.waiting} waiting for a reply`}
                </GroupLine>
              ))}
            </ul>
          </main>
        )
      }}
    </Loaded>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Outlet, useParams } from 'react-router'
import { Loaded } from '../../../ui/states'
import { PlaceContext } from '../../author/place'
import { ownQuestionsQuery } from './queries'

/** Pages for writing the own questions of a group. */
export default function GroupPlace() {
  const group = Number(useParams().group)
  const query = useQuery(ownQuestionsQuery(group))
  return (
    <Loaded query={query} what={t`the group’s questions`}>
      {({ course, topics }) => (
        <PlaceContext
          value={{
            course,
            at: `/tutor/groups/${group}/questions`,
            label: t`Our own questions`,
            group,
            topics,
          }}
        >
          <Outlet />
        </PlaceContext>
      )}
    </Loaded>
  )
}

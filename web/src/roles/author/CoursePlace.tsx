import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Outlet, useParams } from 'react-router'
import { Loaded } from '../../ui/states'
import { writtenQuery } from './bank/queries'
import { PlaceContext } from './place'

/** Pages for writing the questions of a course. */
export default function CoursePlace() {
  const { course = '' } = useParams()
  const query = useQuery(writtenQuery)
  return (
    <Loaded query={query} what={t`your courses`}>
      {({ courses }) => (
        <PlaceContext
          value={{
            course,
            at: `/author/bank/${course}`,
            label: t`Bank`,
            group: null,
            topics: courses.find(({ key }) => key === course)?.topics ?? [],
          }}
        >
          <Outlet />
        </PlaceContext>
      )}
    </Loaded>
  )
}

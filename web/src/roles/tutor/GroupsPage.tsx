import { useQuery } from '@tanstack/react-query'
import { Link, Navigate } from 'react-router'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted } from '../../ui/words'
import { groupsQuery } from './queries'

/** The groups of a tutor; a single one opens at once. */
export default function GroupsPage() {
  useTitle('Groups')
  const query = useQuery(groupsQuery)
  return (
    <Loaded query={query} what="your groups">
      {({ groups }) => {
        const [only] = groups
        if (only && groups.length === 1) return <Navigate to={`/tutor/groups/${only.id}`} replace />
        return (
          <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
            <h1 className="text-3xl">
              {groups.length ? 'Your groups' : 'You teach no group at present'}
            </h1>
            <ul className="mt-4">
              {groups.map((group) => (
                <li
                  key={group.id}
                  className="flex flex-wrap items-baseline justify-between gap-x-6 border-b border-line py-3"
                >
                  <Link
                    to={`/tutor/groups/${group.id}`}
                    className="text-lg font-semibold text-gust hover:underline"
                  >
                    {group.title}
                  </Link>
                  <span className="text-ink-2">
                    {group.course_title}, {counted(group.learners, 'learner')}
                    {group.waiting > 0 && `, ${group.waiting} wait for an answer`}
                  </span>
                </li>
              ))}
            </ul>
          </main>
        )
      }}
    </Loaded>
  )
}

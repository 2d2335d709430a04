import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { learnerQuery } from './queries'

/** The way back to a learner's page, with their name. */
export function Back({ id, home }: { id: number; home: string }) {
  const name = useQuery(learnerQuery(id)).data?.name
  return (
    <p>
      <Link to={`${home}/learners/${id}`} className="text-gust hover:underline">
        {name ?? 'The learner'}
      </Link>
    </p>
  )
}

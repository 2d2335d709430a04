import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { TextLink } from '../../ui/TextLink'
import { learnerQuery } from './queries'

/** The way back to a learner's page, with their name. */
export function Back({ id, home }: { id: number; home: string }) {
  const name = useQuery(learnerQuery(id)).data?.name
  return (
    <p>
      <TextLink to={`${home}/learners/${id}`}>{name ?? t`The learner`}</TextLink>
    </p>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Shell } from '../../account/Shell'
import type { Account } from '../../account/session'
import { waitingHandInsQuery, waitingMarksQuery } from '../marking/queries'
import { groupsQuery, waitingTalksQuery } from './queries'

/** The tutor's bar. */
export function TutorShell({ account }: { account: Account }) {
  const groups = useQuery(groupsQuery).data?.groups ?? []
  const marking = useQuery(waitingMarksQuery).data?.tests ?? []
  const handedIn = useQuery(waitingHandInsQuery).data?.tasks ?? []
  const toMark = [...marking, ...handedIn].reduce((sum, one) => sum + one.waiting, 0)
  const talks = useQuery(waitingTalksQuery).data?.talks ?? []
  const waiting = groups.reduce((sum, group) => sum + group.waiting, talks.length)
  return (
    <Shell
      account={account}
      as="tutor"
      home="/tutor/groups"
      places={[
        { to: '/tutor/groups', label: groups.length === 1 ? t`Group` : t`Groups` },
        ...(groups.length === 1
          ? [{ to: `/tutor/work/${groups[0]?.id}`, label: t`Set work` }]
          : []),
        {
          to: '/tutor/marking',
          label: t`Marking`,
          count: { number: toMark, of: t`answers to mark` },
        },
        {
          to: '/tutor/help',
          label: t`Help`,
          count: { number: waiting, of: t`wait for an answer` },
        },
      ]}
    />
  )
}

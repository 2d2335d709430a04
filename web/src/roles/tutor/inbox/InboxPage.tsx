import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { fieldClass } from '../../../ui/Field'
import { useTitle } from '../../../ui/useTitle'
import { ThreadList } from '../../common/ThreadList'
import { groupsQuery } from '../queries'
import { WaitingTalks } from './WaitingTalks'

/** Help that learners ask for, the longest waiting first. */
export default function InboxPage() {
  useTitle(t`Help`)
  const groups = useQuery(groupsQuery).data?.groups ?? []
  const [group, setGroup] = useState<number | undefined>()
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Questions from learners`}</h1>
      <p className="mt-1 text-ink-2">{t`Longest wait first.`}</p>
      {groups.length > 1 && (
        <label className="mt-4 flex items-center gap-3 text-ink-2">
          {t`Group`}
          <select
            value={group ?? ''}
            onChange={(event) => setGroup(Number(event.target.value) || undefined)}
            className={fieldClass}
          >
            <option value="">{t`all`}</option>
            {groups.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </select>
        </label>
      )}
      <WaitingTalks />
      <ThreadList
        key={group}
        of="inbox"
        first="open"
        filter={{ group }}
        none={t`Nobody is waiting for a reply.`}
      />
    </main>
  )
}

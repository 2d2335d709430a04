import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { TextLink } from '../../../ui/TextLink'
import { since } from '../../../ui/words'
import { waitingTalksQuery } from '../queries'

/** Guardians who wait for an answer; nothing where there is none. */
export function WaitingTalks() {
  const talks = useQuery(waitingTalksQuery).data?.talks ?? []
  if (talks.length === 0) return null
  return (
    <section className="mt-6">
      <h2 className="text-xl">{t`Messages from guardians`}</h2>
      <ul className="mt-1">
        {talks.map((talk) => (
          <li key={`${talk.learner} ${talk.guardian_name}`} className="border-b border-line py-3">
            <TextLink to={`/tutor/learners/${talk.learner}/talk`} className="font-semibold">
              {t`${talk.guardian_name} about ${talk.learner_name}`}
            </TextLink>
            <span className="text-ink-2">
              {' '}
              {t`waits`} {since(talk.since)}
            </span>
            <p className="text-ink-2">{talk.text}</p>
          </li>
        ))}
      </ul>
    </section>
  )
}

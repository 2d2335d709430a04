import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { trialsQuery } from './queries'
import { TrialCard } from './TrialCard'

/** Trials of a course: two texts, each given to half of the learners, and what came of it. */
export default function TrialsPage() {
  const { course = '' } = useParams()
  const query = useQuery(trialsQuery(course))
  useTitle(t`Trials`)
  return (
    <Loaded query={query} what={t`the trials`}>
      {({ running, ended }) => (
        <main id="main" className="max-w-6xl px-5 py-6 @5xl:px-8">
          <p>
            <TextLink to={`/author/course/${course}`}>{t`Course`}</TextLink>
          </p>
          <h1 className="text-3xl">{t`Which text helps more?`}</h1>
          <p className="mt-1 max-w-3xl text-ink-2">{t`Half of the learners get each text, always the same one. What counts is the next version of the question they answer within two weeks, beyond what we expected of each of them. So both texts must be good enough to show.`}</p>
          <p className="mt-1 max-w-3xl text-ink-2">{t`To begin one, open a question or a study page and choose “Compare two texts”.`}</p>
          <section className="mt-6">
            <h2 className="text-xl">{t`Running`}</h2>
            {running.length === 0 && <p className="mt-1 text-ink-2">{t`None.`}</p>}
            {running.map((trial) => (
              <TrialCard key={trial.id} course={course} trial={trial} />
            ))}
          </section>
          <section className="mt-8">
            <h2 className="text-xl">{t`Ended`}</h2>
            {ended.length === 0 && <p className="mt-1 text-ink-2">{t`None yet.`}</p>}
            {ended.map((trial) => (
              <TrialCard key={trial.id} course={course} trial={trial} />
            ))}
          </section>
        </main>
      )}
    </Loaded>
  )
}

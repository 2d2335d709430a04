import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { lazy } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import type { Account } from '../../account/session'
import { Missing } from '../../ui/Missing'
import { Loaded, Loading } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { wardsQuery } from '../reading/queries'
import { consentsQuery } from './consent'
import { GuardianShell } from './GuardianShell'

const ConsentPage = lazy(() => import('./ConsentPage'))
const LearnerPage = lazy(() => import('../reading/LearnerPage'))
const LearnerTopicPage = lazy(() => import('../reading/LearnerTopicPage'))
const LearnerRecordPage = lazy(() => import('../reading/LearnerRecordPage'))
const LearnerMarksPage = lazy(() => import('../reading/LearnerMarksPage'))
const TalkPage = lazy(() => import('../reading/TalkPage'))
const LearnerTryPage = lazy(() => import('../reading/LearnerTryPage'))

/** The guardian's part: nothing in it begins or changes anything but their own consent. */
export default function Guardian({ account }: { account: Account }) {
  return (
    <Routes>
      <Route element={<GuardianShell account={account} />}>
        <Route index element={<WardsPage />} />
        <Route path="learners/:learner" element={<LearnerPage home="/guardian" />} />
        <Route
          path="learners/:learner/topics/:key"
          element={<LearnerTopicPage home="/guardian" />}
        />
        <Route path="learners/:learner/talk" element={<TalkPage home="/guardian" />} />
        <Route path="learners/:learner/record" element={<LearnerRecordPage home="/guardian" />} />
        <Route path="learners/:learner/marks" element={<LearnerMarksPage home="/guardian" />} />
        <Route path="learners/:learner/tries/:id" element={<LearnerTryPage home="/guardian" />} />
        <Route path="consent" element={<ConsentPage />} />
        <Route path="*" element={<Missing />} />
      </Route>
    </Routes>
  )
}

function WardsPage() {
  useTitle(t`Learners`)
  const query = useQuery(wardsQuery)
  const asked = useQuery(consentsQuery)
  // Both are waited for: which comes first must not decide where a guardian goes.
  const waits = asked.data?.consents.some((one) => one.waits)
  if (asked.isPending) return <Loading what={t`your learners`} />
  return (
    <Loaded query={query} what={t`your learners`}>
      {({ wards }) => {
        if (waits) return <Navigate to="/guardian/consent" replace />
        const [only] = wards
        if (only && wards.length === 1)
          return <Navigate to={`/guardian/learners/${only.id}`} replace />
        return (
          <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
            <h1 className="text-3xl">
              {wards.length ? t`Your learners` : t`No learners linked yet`}
            </h1>
            {wards.length === 0 && (
              <p className="mt-2 text-ink-2">
                {t`Ask the learner for a code, and enter it under`}{' '}
                <TextLink to="/people">{t`Codes and links`}</TextLink>.
              </p>
            )}
            <ul className="mt-4">
              {wards.map((ward) => (
                <li key={ward.id} className="border-b border-line py-3">
                  <TextLink to={`/guardian/learners/${ward.id}`} className="text-lg font-semibold">
                    {ward.name}
                  </TextLink>{' '}
                  <span className="text-ink-2">{ward.course_title}</span>
                </li>
              ))}
            </ul>
          </main>
        )
      }}
    </Loaded>
  )
}

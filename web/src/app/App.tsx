import { Navigate, Route, Routes } from 'react-router'
import { PractisePage } from '../features/practise/PractisePage'
import { RehearsalPage } from '../features/rehearsal/RehearsalPage'
import { ReviewPage } from '../features/review/ReviewPage'
import { RunPage } from '../features/run/RunPage'
import { NoWorkYet } from '../features/signin/NoWorkYet'
import { SignInPage } from '../features/signin/SignInPage'
import { StudyPage } from '../features/study/StudyPage'
import { TodayPage } from '../features/today/TodayPage'
import { TopicPage } from '../features/topics/TopicPage'
import { TopicsPage } from '../features/topics/TopicsPage'
import { Loaded } from '../ui/states'
import { Boundary } from './Boundary'
import { Missing } from './Missing'
import { Shell } from './Shell'
import { useSession } from './session'

export function App() {
  const session = useSession()
  return (
    <div className="@container min-h-dvh">
      <Loaded query={session} what="Vendaval">
        {({ account, demo_accounts }) => {
          if (!account) return <SignInPage demo={demo_accounts} />
          if (account.role !== 'learner') return <NoWorkYet account={account} />
          return (
            <Boundary>
              <Routes>
                <Route path="run/:purpose/:id" element={<RunPage />} />
                <Route element={<Shell account={account} />}>
                  <Route index element={<TodayPage />} />
                  <Route path="topics" element={<TopicsPage />} />
                  <Route path="topics/:key" element={<TopicPage />} />
                  <Route path="practise" element={<PractisePage />} />
                  <Route path="review" element={<ReviewPage />} />
                  <Route path="review/:id" element={<ReviewPage />} />
                  <Route path="rehearsal" element={<RehearsalPage />} />
                  <Route path="study/:key" element={<StudyPage />} />
                  <Route path="today" element={<Navigate to="/" replace />} />
                  <Route path="*" element={<Missing />} />
                </Route>
              </Routes>
            </Boundary>
          )
        }}
      </Loaded>
    </div>
  )
}

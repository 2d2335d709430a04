import { lazy } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import type { Account } from '../../account/session'
import { Missing } from '../../ui/Missing'
import { TutorShell } from './TutorShell'

const GroupsPage = lazy(() => import('./group/GroupsPage'))
const GroupPage = lazy(() => import('./group/GroupPage'))
const GroupSettingsPage = lazy(() => import('./group/GroupSettingsPage'))
const SetWorkPage = lazy(() => import('./assigning/SetWorkPage'))
const TeachPage = lazy(() => import('./lesson/TeachPage'))
const CalendarPage = lazy(() => import('./assigning/CalendarPage'))
const SignalsPage = lazy(() => import('./lesson/SignalsPage'))
const HandInsPage = lazy(() => import('./assigning/HandInsPage'))
const AssignPage = lazy(() => import('./assigning/AssignPage'))
const ComposePage = lazy(() => import('../composing/ComposePage'))
const ComposedPage = lazy(() => import('../composing/ComposedPage'))
const SittingPage = lazy(() => import('./sitting/SittingPage'))
const RegradesPage = lazy(() => import('../regrading/RegradesPage'))
const OutcomesPage = lazy(() => import('./outcomes/OutcomesPage'))
const AnalysisPage = lazy(() => import('./outcomes/AnalysisPage'))
const TestAnalysisPage = lazy(() =>
  import('./outcomes/AnalysisPage').then((one) => ({ default: one.TestAnalysisPage })),
)
const RegradePage = lazy(() => import('../regrading/RegradePage'))
const WaitingPage = lazy(() => import('../marking/WaitingPage'))
const MarkingPage = lazy(() => import('../marking/MarkingPage'))
const MarkQuestionPage = lazy(() => import('../marking/MarkQuestionPage'))
const InboxPage = lazy(() => import('./inbox/InboxPage'))
const LearnerPage = lazy(() => import('../reading/LearnerPage'))
const LearnerTopicPage = lazy(() => import('../reading/LearnerTopicPage'))
const LearnerRecordPage = lazy(() => import('../reading/LearnerRecordPage'))
const LearnerMarksPage = lazy(() => import('../reading/LearnerMarksPage'))
const MarksPage = lazy(() => import('./marks/MarksPage'))
const TermPage = lazy(() => import('./marks/TermPage'))
const TalkPage = lazy(() => import('../reading/TalkPage'))
const OwnQuestionsPage = lazy(() => import('./questions/OwnQuestionsPage'))
const GroupPlace = lazy(() => import('./questions/GroupPlace'))
const ExamplesPage = lazy(() => import('../author/examples/ExamplesPage'))
const NewQuestion = lazy(() => import('../author/bank/NewQuestion'))
const FamilyPage = lazy(() => import('../author/family/FamilyPage'))
const HistoryPage = lazy(() => import('../author/family/HistoryPage'))
const LearnerTryPage = lazy(() => import('../reading/LearnerTryPage'))

/** The tutor's part. */
export default function Tutor({ account }: { account: Account }) {
  return (
    <Routes>
      <Route element={<TutorShell account={account} />}>
        <Route index element={<Navigate to="/tutor/groups" replace />} />
        <Route path="groups" element={<GroupsPage />} />
        <Route path="help" element={<InboxPage />} />
        <Route path="groups/:group" element={<GroupPage />} />
        <Route path="work/:group" element={<SetWorkPage />} />
        <Route path="work/:group/new" element={<AssignPage />} />
        <Route path="work/:group/tasks/:task/change" element={<AssignPage key="task" />} />
        <Route path="work/:group/tasks/:task/hand-ins" element={<HandInsPage />} />
        <Route path="work/:group/:assignment/results" element={<OutcomesPage />} />
        <Route path="work/:group/:assignment/analysis" element={<AnalysisPage />} />
        <Route path="work/:group/:assignment/regrade" element={<RegradesPage />} />
        <Route path="work/:group/:assignment/regrade/:family" element={<RegradePage />} />
        <Route path="marking" element={<WaitingPage />} />
        <Route path="work/:group/:assignment/marking" element={<MarkingPage />} />
        <Route path="work/:group/:assignment/marking/:family" element={<MarkQuestionPage />} />
        <Route path="work/:group/:assignment/change" element={<AssignPage key="test" />} />
        <Route path="tests/:course" element={<ComposedPage home="/tutor" />} />
        <Route path="tests/:course/new" element={<ComposePage home="/tutor" />} />
        <Route path="tests/:course/:test/analysis" element={<TestAnalysisPage home="/tutor" />} />
        <Route path="tests/:course/:test" element={<ComposePage key="one" home="/tutor" />} />
        <Route path="work/:group/:assignment" element={<SittingPage />} />
        <Route path="groups/:group/teach" element={<TeachPage />} />
        <Route path="groups/:group/calendar" element={<CalendarPage />} />
        <Route path="groups/:group/signals" element={<SignalsPage />} />
        <Route path="groups/:group/marks" element={<MarksPage />} />
        <Route path="groups/:group/marks/:term" element={<MarksPage />} />
        <Route path="groups/:group/marks/:term/settings" element={<TermPage />} />
        <Route path="groups/:group/questions" element={<OwnQuestionsPage />} />
        <Route path="groups/:group/questions" element={<GroupPlace />}>
          <Route path="examples" element={<ExamplesPage />} />
          <Route path="new" element={<NewQuestion />} />
          <Route path=":family" element={<FamilyPage />} />
          <Route path=":family/history" element={<HistoryPage />} />
        </Route>
        <Route path="groups/:group/settings" element={<GroupSettingsPage />} />
        <Route path="learners/:learner" element={<LearnerPage home="/tutor" />} />
        <Route path="learners/:learner/topics/:key" element={<LearnerTopicPage home="/tutor" />} />
        <Route path="learners/:learner/talk" element={<TalkPage home="/tutor" />} />
        <Route path="learners/:learner/record" element={<LearnerRecordPage home="/tutor" />} />
        <Route path="learners/:learner/marks" element={<LearnerMarksPage home="/tutor" />} />
        <Route path="learners/:learner/tries/:id" element={<LearnerTryPage home="/tutor" />} />
        <Route path="*" element={<Missing />} />
      </Route>
    </Routes>
  )
}

import { t } from '@lingui/core/macro'
import { lastCourse, useCourseList } from '../account/course'
import { lastRole } from '../account/role'
import type { Account } from '../account/session'
import { Loading } from '../ui/states'
import { AuthorShell } from './author/AuthorShell'
import { GuardianShell } from './guardian/GuardianShell'
import { LearnerShell } from './learner/LearnerShell'
import { OfficeShell } from './office/OfficeShell'
import { TutorShell } from './tutor/TutorShell'

/** Around pages that every role has: the bar of the role that was seen last. */
export default function Common({ account }: { account: Account }) {
  switch (lastRole(account)) {
    case 'tutor':
      return <TutorShell account={account} />
    case 'guardian':
      return <GuardianShell account={account} />
    case 'office':
      return <OfficeShell account={account} />
    case 'author':
      return <AuthorShell account={account} />
    default:
      return <SomeCourse account={account} />
  }
}

function SomeCourse({ account }: { account: Account }) {
  const courses = useCourseList().data?.courses
  if (!courses) return <Loading what={t`your courses`} />
  const first = courses.find(({ key }) => key === lastCourse(account.id)) ?? courses[0]
  return <LearnerShell account={account} course={first?.key ?? null} />
}

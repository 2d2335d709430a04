import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { Button, buttonClass } from '../../../ui/Button'
import { RecordView } from '../../record/RecordView'
import { RecordTests } from './RecordTests'
import { SharedNotes } from './SharedNotes'

const FILES = [
  { kind: 'xlsx', label: t`Spreadsheet` },
  { kind: 'csv', label: 'CSV' },
  { kind: 'xapi', label: t`Open learning records` },
]

/** The learner's own record, to be looked through, printed and saved. */
export default function RecordPage() {
  const course = useCourse()
  const to = useTo()
  return (
    <RecordView
      whose={course}
      tryAt={(id) => to(`/record/tries/${id}`)}
      tests={
        <>
          <SharedNotes />
          <RecordTests />
        </>
      }
      beside={
        <div className="flex flex-wrap items-center gap-2 print:hidden">
          <Link to={to('/marks')} className={buttonClass('plain')}>{t`My marks`}</Link>
          <span className="text-ink-2">{t`Save as`}</span>
          {FILES.map(({ kind, label }) => (
            <a
              key={kind}
              href={`/api/courses/${course}/record/file?kind=${kind}`}
              download
              className={buttonClass('plain')}
            >
              {label}
            </a>
          ))}
          <Button kind="quiet" onClick={() => window.print()}>{t`Print`}</Button>
        </div>
      }
    />
  )
}

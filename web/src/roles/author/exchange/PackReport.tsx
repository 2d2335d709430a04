import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'

/** What a pack would change in its course, and what is wrong with it. */
export function PackReport({ report }: { report: Schemas['PackReportOut'] }) {
  const { problems, conflicts, structure, means, gone, files } = report
  const said = [
    { title: t`New questions`, lines: report.new },
    { title: t`Questions that change`, lines: report.changed },
    { title: t`Questions that go: learners aren’t asked them any more`, lines: gone },
    { title: t`The course`, lines: structure },
    { title: t`Other files that change`, lines: files },
    { title: t`What it means for learners`, lines: means },
  ].filter(({ lines }) => lines.length > 0)
  if (problems.length + conflicts.length + said.length === 0)
    return <p className="mt-4">{t`It is the course as it stands. Nothing would change.`}</p>
  return (
    <div className="mt-4 grid max-w-4xl gap-4">
      {problems.length > 0 && (
        <div role="alert">
          <h2 className="text-xl text-wrong">{t`What is wrong`}</h2>
          <Lines lines={problems} />
        </div>
      )}
      {conflicts.length > 0 && (
        <section>
          <h2 className="text-xl text-part">{t`Changed here too`}</h2>
          <p className="text-ink-2">{t`The pack’s files would replace these. What stands here now stays in their history.`}</p>
          <Lines lines={conflicts} />
        </section>
      )}
      {said.map(({ title, lines }) => (
        <section key={title}>
          <h2 className="text-xl">{title}</h2>
          <Lines lines={lines} />
        </section>
      ))}
    </div>
  )
}

const Lines = ({ lines }: { lines: string[] }) => (
  <ul className="mt-1 list-disc pl-5">
    {lines.map((says) => (
      <li key={says} className="break-words">
        {says}
      </li>
    ))}
  </ul>
)

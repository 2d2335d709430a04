import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { moment } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { usePlace } from '../place'
import { Compared } from './Compared'
import { historyQuery, restoreRevision, restoreStep } from './queries'

type History = Schemas['HistoryOut']

/** How a question came to be as it is: revisions, compared two by two, and any of them put back. */
export default function HistoryPage() {
  const { family = '' } = useParams()
  const { course, at } = usePlace()
  const query = useQuery(historyQuery(course, family))
  useTitle(t`History`)
  return (
    <Loaded query={query} what={t`the history`}>
      {(history) => (
        <main id="main" className="px-5 py-6 @5xl:px-8">
          <p>
            <TextLink to={`${at}/${family}`}>{history.title}</TextLink>
          </p>
          <h1 className="text-3xl">{t`History`}</h1>
          <Whole history={history} course={course} family={family} />
        </main>
      )}
    </Loaded>
  )
}

interface Props {
  history: History
  course: string
  family: string
}

function Whole({ history, course, family }: Props) {
  const { at } = usePlace()
  const { revisions, steps, is_draft } = history
  const newest = is_draft ? 0 : (revisions[0]?.number ?? 0)
  const before = is_draft ? revisions[0] : revisions[1]
  const [older, setOlder] = useState(before?.number ?? newest)
  const [newer, setNewer] = useState(newest)
  const navigate = useNavigate()
  const restore = useMutation({
    mutationFn: (what: { revision: number } | { step: number }) =>
      'revision' in what
        ? restoreRevision(course, family, what.revision)
        : restoreStep(course, family, what.step),
    onSuccess: () => navigate(`${at}/${family}`),
  })
  const choices = [
    ...(is_draft ? [['0', t`the draft`] as [string, string]] : []),
    ...revisions.map(({ number }): [string, string] => [String(number), t`revision ${number}`]),
  ]
  return (
    <>
      <ol className="mt-4 max-w-4xl">
        {revisions.map((one, place) => (
          <li
            key={one.number}
            className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line py-2"
          >
            <span className="min-w-28 font-semibold">{t`Revision ${one.number}`}</span>
            <span className="text-ink-2">
              {one.at && moment(one.at)}
              {one.by ? `, ${one.by}` : t`, from the pack`}
            </span>
            <span className="min-w-0 flex-1">
              {one.why}
              {one.fresh && (
                <span className="text-part"> {t`Earlier answers don’t count from here on.`}</span>
              )}
            </span>
            {place > 0 && (
              <Button
                kind="quiet"
                aria-label={t`Restore revision ${one.number}`}
                disabled={restore.isPending}
                onClick={() => restore.mutate({ revision: one.number })}
              >{t`Restore`}</Button>
            )}
          </li>
        ))}
      </ol>
      {steps.length > 0 && (
        <details className="mt-3 max-w-4xl">
          <summary className="cursor-pointer font-semibold text-gust">{t`Earlier states of this draft`}</summary>
          <ul>
            {steps.map((step) => (
              <li
                key={step.id}
                className="flex flex-wrap items-baseline gap-4 border-b border-line py-1"
              >
                <span>{`${moment(step.at)}, ${step.by}`}</span>
                <Button
                  kind="quiet"
                  aria-label={t`Restore the draft of ${moment(step.at)}`}
                  disabled={restore.isPending}
                  onClick={() => restore.mutate({ step: step.id })}
                >{t`Restore`}</Button>
              </li>
            ))}
          </ul>
        </details>
      )}
      <p className="mt-2 text-sm text-ink-2">
        {t`A restored revision becomes your draft. Learners see it after you publish it.`}
      </p>
      <Problem error={restore.error} />
      {choices.length > 1 && (
        <>
          <div className="mt-6 flex flex-wrap gap-4">
            <Pick
              label={t`Compare`}
              options={choices}
              value={String(older)}
              onChange={(next) => setOlder(Number(next))}
            />
            <Pick
              label={t`With`}
              options={choices}
              value={String(newer)}
              onChange={(next) => setNewer(Number(next))}
            />
          </div>
          <Compared course={course} family={family} older={older} newer={newer} />
        </>
      )}
    </>
  )
}

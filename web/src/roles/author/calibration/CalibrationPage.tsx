import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { moment } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { keys } from '../keys'
import { CalibratedLine } from './CalibratedLine'
import { FromTable } from './FromTable'
import {
  accept,
  type Calibration,
  calibrationQuery,
  runCalibration,
  type Show,
  undo,
} from './queries'

/** How hard each question is, as the answers say, beside what holds now; accepted or left. */
export default function CalibrationPage() {
  const { course = '' } = useParams()
  const [show, setShow] = useState<Show>('proposed')
  const [page, setPage] = useState(1)
  const cache = useQueryClient()
  const query = useQuery(calibrationQuery(course, show, page))
  useTitle(t`Calibration`)
  const anew = () => cache.invalidateQueries({ queryKey: keys.calibrations(course) })
  const run = useMutation({ mutationFn: () => runCalibration(course), onSuccess: anew })
  const change = useMutation({
    mutationFn: ({ id, does, families }: { id: number; does: typeof accept; families: string[] }) =>
      does(course, id, families),
    onSuccess: anew,
  })
  return (
    <Loaded query={query} what={t`the calibration`}>
      {(found) => (
        <main id="main" className="px-5 py-6 @5xl:px-8">
          <p>
            <TextLink to={`/author/course/${course}`}>{t`Course`}</TextLink>
          </p>
          <h1 className="text-3xl">{t`Calibration`}</h1>
          <p className="mt-1 max-w-3xl text-ink-2">{t`How hard each question is, worked out from everything answered so far. Nothing changes until you accept it. Scores never change.`}</p>
          <div className="mt-4 flex flex-wrap items-center gap-4">
            <Button disabled={run.isPending || !!found.running} onClick={() => run.mutate()}>
              {t`Run a calibration`}
            </Button>
            <p role="status" className="text-ink-2">
              {statusWords(found)}
            </p>
          </div>
          <FromTable course={course} off={!!found.running} onSent={anew} />
          <Problem error={run.error ?? change.error} />
          {found.id !== null && (
            <>
              {found.effect && <p className="mt-4 max-w-3xl text-lg">{found.effect}</p>}
              <div className="mt-4 flex flex-wrap items-end gap-4">
                <Pick
                  label={t`Show`}
                  options={[
                    ['proposed', t`with a new curve (${found.counts.proposed ?? 0})`],
                    ['alone', t`left alone (${found.counts.alone ?? 0})`],
                    ['asks', t`to look at (${found.counts.asks ?? 0})`],
                  ]}
                  value={show}
                  onChange={(next) => {
                    setShow(next as Show)
                    setPage(1)
                  }}
                />
                <Both
                  found={found}
                  pending={change.isPending}
                  onAccept={(id) => change.mutate({ id, does: accept, families: [] })}
                  onUndo={(id) => change.mutate({ id, does: undo, families: [] })}
                />
              </div>
              {found.lines.length === 0 && <p className="mt-4 text-ink-2">{t`None.`}</p>}
              <ul className="mt-4 grid gap-3">
                {found.lines.map((line) => (
                  <CalibratedLine
                    key={line.key}
                    course={course}
                    line={line}
                    disabled={found.busy || change.isPending}
                    onAccept={() =>
                      change.mutate({ id: found.id ?? 0, does: accept, families: [line.key] })
                    }
                    onUndo={() =>
                      change.mutate({ id: found.id ?? 0, does: undo, families: [line.key] })
                    }
                  />
                ))}
              </ul>
              {found.pages > 1 && (
                <nav aria-label={t`Pages`} className="mt-4 flex items-center gap-3">
                  <Button disabled={page === 1} onClick={() => setPage(page - 1)}>
                    {t`Previous page`}
                  </Button>
                  <span className="tabular-nums">{t`Page ${found.page} of ${found.pages}`}</span>
                  <Button disabled={page === found.pages} onClick={() => setPage(page + 1)}>
                    {t`Next page`}
                  </Button>
                </nav>
              )}
            </>
          )}
        </main>
      )}
    </Loaded>
  )
}

function statusWords({ running, busy, made_at, made_by, answers, table }: Calibration): string {
  if (running) {
    const at = running.topic ? t`, now ${running.topic}` : ''
    return t`Running: ${running.done} of ${running.topics} topics done${at}.`
  }
  if (busy) return t`Levels are being worked out again.`
  if (!made_at) return t`No calibration has been run yet.`
  const of = table ? t`${answers} answers of ${table}` : t`${answers} answers`
  return t`The last one is of ${moment(made_at)} by ${made_by}, from ${of}.`
}

interface BothProps {
  found: Calibration
  pending: boolean
  onAccept: (id: number) => void
  onUndo: (id: number) => void
}

function Both({ found, pending, onAccept, onUndo }: BothProps) {
  const { id, busy, counts, lines } = found
  if (id === null || !counts.proposed) return null
  const off = busy || pending
  const some = lines.some(({ accepted }) => accepted)
  const all = lines.every(({ accepted, proposed }) => accepted || !proposed)
  return (
    <span className="flex flex-wrap gap-3">
      <Button kind="strong" disabled={off || all} onClick={() => onAccept(id)}>
        {t`Accept all`}
      </Button>
      {some && (
        <Button disabled={off} onClick={() => onUndo(id)}>
          {t`Undo all of it`}
        </Button>
      )}
    </span>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Sign } from '../../ui/Sign'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted, moment } from '../../ui/words'
import { systemQuery } from './queries'

type Job = Schemas['JobOut']

const STATES: Record<Job['state'], string> = {
  ready: t`waiting`,
  running: t`running`,
  successful: t`done`,
  failed: 'failed',
  lost: t`stopped unexpectedly`,
}

/** How the system is: what is looked at now and then, and jobs in the background. */
export default function SystemPage() {
  useTitle(t`System`)
  const query = useQuery(systemQuery)
  const cache = useQueryClient()
  const again = useMutation({
    mutationFn: (job_id: string) =>
      call(api.POST('/api/office/system/jobs/{job_id}', { params: { path: { job_id } } })),
    onSuccess: (next) => {
      void cache.invalidateQueries({ queryKey: keys.office })
      cache.setQueryData(keys.system, next)
    },
  })
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <Loaded query={query} what={t`the system`}>
        {({ checks, calibrations, jobs }) => {
          const bad = checks.filter((one) => one.well === false).length
          return (
            <>
              <h1 className="text-3xl">
                {bad === 0
                  ? t`Everything is working`
                  : t`${bad} of ${checks.length} checks need attention`}
              </h1>
              <ul className="mt-4">
                {checks.map((one) => (
                  <li key={one.what} className="flex items-start gap-4 border-b border-line py-3">
                    <Sign
                      kind={one.well === null ? 'note' : one.well ? 'right' : 'wrong'}
                      word={false}
                    />
                    <span>
                      <strong>{one.what}</strong>{' '}
                      <span className="text-ink-2">
                        {one.well === null ? t`not known` : one.well ? 'well' : t`needs attention`}
                        {one.at && `, ${moment(one.at)}`}
                      </span>
                      <span className="block">{one.says}</span>
                    </span>
                  </li>
                ))}
              </ul>
              <Calibrations calibrations={calibrations} />
              <h2 className="mt-8 text-xl">{t`Background jobs`}</h2>
              {jobs.length === 0 && <p className="mt-1 text-ink-2">{t`None yet.`}</p>}
              <ul className="mt-1">
                {jobs.map((job) => (
                  <li key={job.id} className="border-b border-line py-2.5">
                    <div className="flex flex-wrap items-center gap-x-5">
                      <span>
                        <strong>{job.what}</strong> {STATES[job.state]}
                      </span>
                      <span className="text-ink-2">{moment(job.ended ?? job.at)}</span>
                      {job.again && (
                        <Button disabled={again.isPending} onClick={() => again.mutate(job.id)}>
                          {t`Try again`}
                          <span className="sr-only">: {job.what}</span>
                        </Button>
                      )}
                    </div>
                    {job.why && <p className="text-ink-2">{job.why}</p>}
                  </li>
                ))}
              </ul>
              <Problem error={again.error} />
            </>
          )
        }}
      </Loaded>
    </main>
  )
}

/** Curves that a calibration proposes; in force once somebody of the office says so. */
function Calibrations({ calibrations }: { calibrations: Schemas['CalibrationLineOut'][] }) {
  const cache = useQueryClient()
  const apply = useMutation({
    mutationFn: (calibration_id: number) =>
      call(
        api.POST('/api/office/system/calibrations/{calibration_id}', {
          params: { path: { calibration_id } },
        }),
      ),
    onSuccess: (next) => cache.setQueryData(keys.system, next),
  })
  if (calibrations.length === 0) return null
  return (
    <section>
      <h2 className="mt-8 text-xl">{t`Calibrations`}</h2>
      <p className="text-ink-2">{t`How hard each question is, worked out from the answers. If you use a calibration, levels are worked out again. Scores never change.`}</p>
      <ul className="mt-1">
        {calibrations.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center gap-x-5 border-b border-line py-2.5"
          >
            <span>
              <strong>{one.course}</strong>
              {t`, ${counted(one.families, 'family')} from ${counted(one.answers, 'answer')}`}
            </span>
            <span className="text-ink-2">
              {t`proposed by ${one.made_by}, ${moment(one.made_at)}`}
            </span>
            {one.applied_at ? (
              <span>{t`in use since ${moment(one.applied_at)}, by ${one.applied_by}`}</span>
            ) : one.waits ? (
              <span>{t`will be used soon`}</span>
            ) : (
              <Button disabled={apply.isPending} onClick={() => apply.mutate(one.id)}>
                {t`Use this calibration`}
                <span className="sr-only"> {t`for ${one.course}`}</span>
              </Button>
            )}
            {one.asks.length > 0 && (
              <details className="w-full">
                <summary className="py-1 text-gust">
                  {t`${counted(one.asks.length, 'thing')} for authors to check`}
                </summary>
                <ul className="mt-1">
                  {one.asks.map(({ family, says }) => (
                    <li key={family + says} className="py-0.5">
                      <strong>{family}</strong>: {says}
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </li>
        ))}
      </ul>
      <Problem error={apply.error} />
    </section>
  )
}

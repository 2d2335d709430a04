import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Sign } from '../../ui/Sign'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { moment } from '../../ui/words'
import { systemQuery } from './queries'

type Job = Schemas['JobOut']

const STATES: Record<Job['state'], string> = {
  ready: 'waits for its turn',
  running: 'is at work',
  successful: 'is done',
  failed: 'failed',
  lost: 'has stopped without an end',
}

/** How the system is: what is looked at now and then, and jobs in the background. */
export default function SystemPage() {
  useTitle('System')
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
      <Loaded query={query} what="the system">
        {({ checks, jobs }) => {
          const bad = checks.filter((one) => one.well === false).length
          return (
            <>
              <h1 className="text-3xl">
                {bad === 0 ? 'The system is well' : `Look at ${bad} of ${checks.length}`}
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
                        {one.well === null ? 'not known' : one.well ? 'well' : 'look at it'}
                        {one.at && `, ${moment(one.at)}`}
                      </span>
                      <span className="block">{one.says}</span>
                    </span>
                  </li>
                ))}
              </ul>
              <h2 className="mt-8 text-xl">Jobs in the background</h2>
              {jobs.length === 0 && <p className="mt-1 text-ink-2">There was none yet.</p>}
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
                          Begin again<span className="sr-only">: {job.what}</span>
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

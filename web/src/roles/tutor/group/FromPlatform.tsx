import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { moment } from '../../../ui/words'

const AT = '/api/groups/{group_id}/platform' as const
type Score = Schemas['SentScoreOut']

/** A group that comes from a platform: its members, and each mark that went back. */
export function FromPlatform({ id }: { id: number }) {
  const cache = useQueryClient()
  const where = { params: { path: { group_id: id } } }
  const key = [...keys.groups, id, 'platform']
  const { data } = useQuery({ queryKey: key, queryFn: () => call(api.GET(AT, where)) })
  const again = useMutation({
    mutationFn: () => call(api.POST(`${AT}/again`, where)),
    onSuccess: (next) => cache.setQueryData(key, next),
  })
  const fill = useMutation({
    mutationFn: () => call(api.POST(`${AT}/fill`, where)),
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.groups }),
  })
  if (!data?.name) return null
  return (
    <section aria-labelledby="platform" className="mt-8">
      <h2 id="platform" className="text-2xl">{t`From ${data.name}`}</h2>
      <p className="mt-2 flex flex-wrap items-center gap-3">
        {data.fills && (
          <Button disabled={fill.isPending} onClick={() => fill.mutate()}>
            {t`Take in everybody from its course`}
          </Button>
        )}
        {data.refused > 0 && (
          <Button disabled={again.isPending} onClick={() => again.mutate()}>
            {t`Send the refused marks again`}
          </Button>
        )}
        <span role="status">{fill.data && t`In the group from there: ${fill.data.taken}.`}</span>
      </p>
      <Problem error={fill.error ?? again.error} />
      <h3 className="mt-3 text-lg">{t`Marks sent back`}</h3>
      {data.scores.length === 0 ? (
        <p className="text-ink-2">{t`None yet. They go once they are released.`}</p>
      ) : (
        <ul className="mt-1 divide-y divide-line rounded-box bg-sheet px-4">
          {data.scores.map((one) => (
            <li key={`${one.work} ${one.learner}`} className="flex flex-wrap gap-x-4 py-2">
              <span className="min-w-40 font-semibold">{one.learner}</span>
              <span className="min-w-0 flex-1">{one.work}</span>
              <span className="tabular-nums">{t`${one.given.toFixed(1)} of ${one.of}`}</span>
              <span className={one.state === 'refused' ? 'text-wrong' : 'text-ink-2'}>
                {told(one)}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function told({ state, says, sent_at, next_at }: Score): string {
  if (state === 'sent' && sent_at) return t`sent ${moment(sent_at)}`
  if (state === 'refused') return t`refused: ${says}`
  if (says && next_at) return t`not yet (${says}), tried again ${moment(next_at)}`
  return t`about to be sent`
}

import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useKept } from '../../../account/useKept'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Input, Labelled, Problem } from '../../../ui/Field'

const VOID = '/api/learners/{enrolment_id}/tries/{try_id}/void' as const

/** Let a try count for no level, with the reason, or count again. */
export function VoidTry({ learner, shown }: { learner: number; shown: Schemas['TryOut'] }) {
  const { value: why, set: setWhy, saved } = useKept(`void:${shown.line.id}`, () => '')
  const cache = useQueryClient()
  const params = { path: { enrolment_id: learner, try_id: shown.line.id } }
  const change = useMutation({
    mutationFn: () =>
      shown.voided
        ? call(api.DELETE(VOID, { params }))
        : call(api.POST(VOID, { params, body: { why } })),
    onSuccess: (next) => {
      saved('')
      cache.setQueryData(keys.try(learner, shown.line.id), next)
      void cache.invalidateQueries({ queryKey: keys.learner(learner) })
    },
  })
  return (
    <details className="mt-8 max-w-xl border-t border-line pt-3">
      <summary className="cursor-pointer">
        {shown.voided ? t`Count it again` : t`Was this answered by someone else?`}
      </summary>
      {!shown.voided && (
        <Labelled label={t`Why it shouldn’t count (the learner reads this)`} className="mt-2">
          <Input maxLength={200} value={why} onChange={(event) => setWhy(event.target.value)} />
        </Labelled>
      )}
      <Problem error={change.error} />
      <Button
        className="mt-2"
        disabled={change.isPending || (!shown.voided && why.trim().length < 3)}
        onClick={() => change.mutate()}
      >
        {shown.voided ? t`Count it again` : t`Exclude from level`}
      </Button>
    </details>
  )
}

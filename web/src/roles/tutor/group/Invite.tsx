import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { longDay } from '../../../ui/words'
import { endCode, makeCode } from '../queries'

/** The code that lets learners into a group: shown, made anew, ended. */
export function Invite({
  id,
  code,
  ends,
}: {
  id: number
  code: string | null
  ends: string | null
}) {
  const cache = useQueryClient()
  const changed = () => cache.invalidateQueries({ queryKey: keys.group(id) })
  const make = useMutation({ mutationFn: () => makeCode(id), onSuccess: changed })
  const end = useMutation({ mutationFn: () => endCode(id), onSuccess: changed })
  return (
    <div className="flex flex-wrap items-center gap-x-3" aria-live="polite">
      {code && ends && (
        <span>
          {t`Joining code:`}{' '}
          <strong className="font-heading text-lg tracking-wider tabular-nums">{code}</strong>{' '}
          <span className="text-sm text-ink-2">{t`until ${longDay(ends)}`}</span>
        </span>
      )}
      <Button
        kind={code ? 'quiet' : 'plain'}
        disabled={make.isPending}
        onClick={() => make.mutate()}
      >
        {code ? t`New code` : t`Create a joining code`}
      </Button>
      {code && (
        <Button
          kind="quiet"
          disabled={end.isPending}
          onClick={() => end.mutate()}
        >{t`Stop the code`}</Button>
      )}
      <Problem error={make.error ?? end.error} />
    </div>
  )
}

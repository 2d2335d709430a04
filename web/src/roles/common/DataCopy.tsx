import { t } from '@lingui/core/macro'
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { Schemas } from '../../api/client'
import { Button, buttonClass } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { moment } from '../../ui/words'

type Copy = Schemas['DataCopyOut']

const POLL_MS = 2000

export interface CopySource {
  key: readonly unknown[]
  read: () => Promise<Copy>
  ask: () => Promise<Copy>
  file: string
}

/** A copy of somebody's data: asked for, made in the background, and fetched for a day. */
export function DataCopy({ source, ask }: { source: CopySource; ask: string }) {
  const cache = useQueryClient()
  const query = useQuery(
    queryOptions({
      queryKey: source.key,
      queryFn: source.read,
      refetchInterval: ({ state }) => (state.data?.state === 'making' ? POLL_MS : false),
    }),
  )
  const wanted = useMutation({
    mutationFn: source.ask,
    onSuccess: (copy) => cache.setQueryData(source.key, copy),
  })
  const copy = query.data
  return (
    <div>
      <div className="flex flex-wrap items-center gap-3">
        {copy?.state === 'ready' && (
          <a href={source.file} download className={buttonClass('plain')}>
            {t`Download the copy`}
            {copy.megabytes ? t` (${Math.max(0.1, copy.megabytes)} MB)` : ''}
          </a>
        )}
        <Button
          disabled={copy?.state === 'making' || wanted.isPending}
          onClick={() => wanted.mutate()}
        >
          {copy?.state === 'ready' ? t`Prepare a new copy` : ask}
        </Button>
      </div>
      <p role="status" className="mt-1.5 text-[0.95rem] text-ink-2">
        {copy?.state === 'making' && t`We’re preparing your copy. You can leave this page.`}
        {copy?.state === 'ready' &&
          copy.until &&
          t`Your copy is ready. You can download it until ${moment(copy.until)}.`}
      </p>
      <Problem error={wanted.error ?? query.error} />
    </div>
  )
}

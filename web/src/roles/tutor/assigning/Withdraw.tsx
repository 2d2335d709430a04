import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { moment } from '../../../ui/words'
import { restoreTask, restoreTest } from '../queries'

/** Takes work back, once it was asked for twice. */
export function Withdraw({
  title,
  busy,
  onTake,
}: {
  title: string
  busy: boolean
  onTake: () => void
}) {
  const [sure, setSure] = useState(false)
  return (
    <span className="flex flex-wrap items-center gap-x-1">
      <span role="status">{sure && t`It will disappear from every learner’s list.`}</span>
      <Button
        kind="quiet"
        aria-label={sure ? t`Yes, withdraw ${title}` : t`Withdraw ${title}`}
        disabled={busy}
        onClick={() => (sure ? onTake() : setSure(true))}
      >
        {sure ? t`Yes, withdraw it` : t`Withdraw`}
      </Button>
      {sure && <Button kind="quiet" onClick={() => setSure(false)}>{t`Keep it`}</Button>}
    </span>
  )
}

type Line = Schemas['WithdrawnOut']

/** Work that was withdrawn, and the way to undo that. */
export function AssignAgain({
  group,
  tests,
  tasks,
}: {
  group: number
  tests: Line[]
  tasks: Line[]
}) {
  const cache = useQueryClient()
  const undo = useMutation({
    mutationFn: (act: () => Promise<unknown>) => act(),
    onSettled: () => void cache.invalidateQueries({ queryKey: keys.group(group) }),
  })
  const lines = [
    ...tests.map((one) => ({ ...one, key: `test-${one.id}`, act: restoreTest })),
    ...tasks.map((one) => ({ ...one, key: `task-${one.id}`, act: restoreTask })),
  ]
  if (lines.length === 0) return null
  return (
    <ul aria-label={t`Withdrawn`} className="mt-4">
      {lines.map((one) => (
        <li key={one.key} className="flex flex-wrap items-center gap-x-3 text-ink-2">
          {t`You withdrew ${one.title}. You can undo this until ${moment(one.until)}.`}
          <Button
            kind="quiet"
            aria-label={t`Undo: set ${one.title} again`}
            disabled={undo.isPending}
            onClick={() => undo.mutate(() => one.act(group, one.id))}
          >{t`Undo`}</Button>
        </li>
      ))}
      <Problem error={undo.error} />
    </ul>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem, TextField } from '../../ui/Field'
import { day } from '../../ui/words'

const AT = '/api/courses/{course}/bank/{family}' as const
type Stopping = Schemas['StoppingOut']

/** A faulty question: what stopping it means, then the reason, then nobody is asked it any more. */
export function StopAsking({ course, family }: { course: string; family: string }) {
  const [sure, setSure] = useState(false)
  const [why, setWhy] = useState('')
  const cache = useQueryClient()
  const path = { course, family }
  const now = useQuery({
    queryKey: keys.stopping(course, family),
    queryFn: () => call(api.GET(`${AT}/stopped`, { params: { path } })),
  }).data
  const change = useMutation({
    mutationFn: (act: () => Promise<Stopping>) => act(),
    onSuccess: (next) => {
      setSure(false)
      cache.setQueryData(keys.stopping(course, family), next)
      void cache.invalidateQueries({ queryKey: keys.composed(course) })
    },
  })
  if (!now || (!now.can && !now.stopped)) return null
  if (now.stopped)
    return (
      <section aria-label={t`Stopped question`} className="mt-6 border-part border-l-4 pl-3">
        <p className="font-semibold">{t`Nobody is asked this question now.`}</p>
        <p className="text-ink-2">{t`${now.by}, ${now.at ? day(now.at) : ''}: ${now.why}`}</p>
        <Button
          kind="quiet"
          className="-ml-2"
          disabled={change.isPending}
          onClick={() => change.mutate(() => call(api.POST(`${AT}/ask`, { params: { path } })))}
        >{t`Ask it again`}</Button>
        <Problem error={change.error} />
      </section>
    )
  if (!sure)
    return (
      <Button kind="quiet" className="mt-4 -ml-2" onClick={() => setSure(true)}>
        {t`Stop asking this question`}
      </Button>
    )
  return (
    <form
      aria-label={t`Stop asking this question`}
      className="mt-6 grid gap-3 border-line border-t pt-4"
      onSubmit={(event) => {
        event.preventDefault()
        change.mutate(() => call(api.POST(`${AT}/stop`, { params: { path }, body: { why } })))
      }}
    >
      <h3 className="text-lg">{t`What happens`}</h3>
      <ul className="grid gap-1">
        {now.means.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <TextField
        label={t`What is wrong with it`}
        value={why}
        onText={setWhy}
        required
        minLength={3}
        maxLength={300}
      />
      <p className="flex flex-wrap gap-3">
        <Button type="submit" kind="strong" disabled={change.isPending}>{t`Stop asking it`}</Button>
        <Button kind="quiet" onClick={() => setSure(false)}>{t`Cancel`}</Button>
      </p>
      <Problem error={change.error} />
    </form>
  )
}

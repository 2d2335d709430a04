import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Problem, TextField } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { day } from '../../../ui/words'
import { Pick } from '../../composing/Pick'

const AT = '/api/learners/{enrolment_id}/accommodation' as const
type Allowed = Schemas['AccommodationOut']

const TIMES: [string, string][] = [
  ['1', t`as everybody`],
  ['1.1', t`1.1 times`],
  ['1.25', t`1.25 times`],
  ['1.5', t`1.5 times`],
  ['2', t`twice`],
]

/** What a learner is allowed in every test: extra time, large print, a reader, a separate room. */
export function Accommodation({ learner, name }: { learner: number; name: string }) {
  const [open, setOpen] = useState(false)
  const path = { enrolment_id: learner }
  const query = useQuery({
    queryKey: keys.accommodation(learner),
    queryFn: () => call(api.GET(AT, { params: { path } })),
  })
  const now = query.data
  if (!now) return null
  return (
    <section aria-labelledby="accommodation" className="mt-6">
      <h2 id="accommodation" className="text-xl">{t`In every test`}</h2>
      <p className="mt-1">
        {now.says.length > 0 ? now.says.join(', ') : t`Nothing special.`}
        {now.at && (
          <span className="block text-ink-2 text-sm">
            {now.why && `${now.why}, `}
            {now.by}, {day(now.at)}
          </span>
        )}
      </p>
      <Button kind="quiet" className="-ml-2" onClick={() => setOpen(true)}>{t`Change it`}</Button>
      {open && <Change learner={learner} name={name} now={now} onClose={() => setOpen(false)} />}
    </section>
  )
}

interface ChangeProps {
  learner: number
  name: string
  now: Allowed
  onClose: () => void
}

function Change({ learner, name, now, onClose }: ChangeProps) {
  const [form, setForm] = useState({
    times: now.times,
    minutes: now.minutes,
    large_print: now.large_print,
    reader: now.reader,
    separate_room: now.separate_room,
    why: now.why,
  })
  const set = (next: Partial<typeof form>) => setForm({ ...form, ...next })
  const cache = useQueryClient()
  const save = useMutation({
    mutationFn: () =>
      call(api.POST(AT, { params: { path: { enrolment_id: learner } }, body: form })),
    onSuccess: (next) => {
      cache.setQueryData(keys.accommodation(learner), next)
      onClose()
    },
  })
  return (
    <Sheet open onOpenChange={onClose} title={t`${name} in every test`}>
      <form
        className="mt-4 grid gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          save.mutate()
        }}
      >
        <div className="flex flex-wrap gap-4">
          <Pick
            label={t`Time`}
            options={TIMES}
            value={String(form.times)}
            onChange={(text) => set({ times: Number(text) })}
          />
          <TextField
            label={t`Extra minutes`}
            type="number"
            min={0}
            max={600}
            value={form.minutes}
            onText={(text) => set({ minutes: Number(text) || 0 })}
            fieldWidth="w-28"
          />
        </div>
        <div className="grid gap-1">
          <Check on={form.large_print} set={(large_print) => set({ large_print })}>
            {t`large print: text starts at 150%`}
          </Check>
          <Check on={form.reader} set={(reader) => set({ reader })}>
            {t`a reader: questions can be read aloud`}
          </Check>
          <Check on={form.separate_room} set={(separate_room) => set({ separate_room })}>
            {t`a separate room`}
          </Check>
        </div>
        <TextField
          label={t`Reason (the learner reads this)`}
          value={form.why}
          maxLength={200}
          onText={(why) => set({ why })}
        />
        <p className="text-ink-2">{t`This is used by every test, also by one in progress. Extra time set for a single test comes first there.`}</p>
        <Button
          type="submit"
          kind="strong"
          className="justify-self-start"
          disabled={save.isPending}
        >
          {t`Save`}
        </Button>
        <Problem error={save.error} />
      </form>
    </Sheet>
  )
}

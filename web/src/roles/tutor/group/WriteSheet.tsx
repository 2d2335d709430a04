import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useKept } from '../../../account/useKept'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Labelled, Problem, TextArea } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Sheet } from '../../../ui/Sheet'
import { counted, moment } from '../../../ui/words'

interface Props {
  group: Schemas['GroupOut']
  onClose: () => void
}

const LONGEST = 1000

/** A message to the group, or to the learners that are ticked; and what was written before. */
export function WriteSheet({ group, onClose }: Props) {
  const kept = useKept(`write:${group.id}`, () => '')
  const [to, setTo] = useState<number[]>([])
  const cache = useQueryClient()
  const params = { params: { path: { group_id: group.id } } }
  const before = useQuery({
    queryKey: keys.groupMessages(group.id),
    queryFn: () => call(api.GET('/api/groups/{group_id}/messages', params)),
  })
  const send = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/groups/{group_id}/messages', {
          ...params,
          body: { text: kept.value.trim(), learners: to.length > 0 ? to : null },
        }),
      ),
    onSuccess: (found) => {
      kept.saved('')
      setTo([])
      cache.setQueryData(keys.groupMessages(group.id), found)
    },
  })
  const whom = to.length > 0 ? counted(to.length, 'learner') : t`the whole group`
  return (
    <Sheet open onOpenChange={onClose} title={t`Write to the group`}>
      <KeptNote restored={kept.restored} onDiscard={kept.discard} />
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          send.mutate()
        }}
      >
        <Labelled label={t`Message to ${whom}`}>
          <TextArea
            rows={4}
            required
            maxLength={LONGEST}
            value={kept.value}
            onChange={(event) => kept.set(event.target.value)}
          />
        </Labelled>
        <details>
          <summary className="cursor-pointer text-gust">{t`Only to some`}</summary>
          <div className="mt-1 max-h-56 columns-[12rem] gap-x-6 overflow-y-auto">
            {[...group.learners]
              .sort((one, other) => one.name.localeCompare(other.name))
              .map((one) => (
                <Check
                  key={one.id}
                  on={to.includes(one.id)}
                  set={(on) => setTo(on ? [...to, one.id] : to.filter((id) => id !== one.id))}
                >
                  {one.name}
                </Check>
              ))}
          </div>
        </details>
        <p className="text-ink-2">{t`They see it under Messages, and in the day’s mail if they get one.`}</p>
        <Button
          type="submit"
          kind="strong"
          className="justify-self-start"
          disabled={send.isPending || kept.value.trim() === ''}
        >{t`Send to ${whom}`}</Button>
        <span role="status">{send.isSuccess && t`Sent.`}</span>
        <Problem error={send.error} />
      </form>
      <ul className="mt-4">
        {before.data?.messages.map((one) => (
          <li key={one.at} className="border-line border-t py-2">
            <p className="whitespace-pre-wrap">{one.text}</p>
            <p className="text-ink-2 text-sm">
              {one.by}, {moment(one.at)}
              {one.to.length > 0 && t`, only to ${one.to.join(', ')}`}
            </p>
          </li>
        ))}
      </ul>
    </Sheet>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { DateField } from '../../../ui/DateField'
import { Problem } from '../../../ui/Field'
import { day } from '../../../ui/words'
import { Pick } from '../../composing/Pick'

type Page = Schemas['CoversOut']
const AT = '/api/groups/{group_id}/covers' as const

/** Who teaches the group for its tutor, and from when until when. */
export function Covers({ group }: { group: number }) {
  const path = { group_id: group }
  const cache = useQueryClient()
  const found = useQuery({
    queryKey: keys.covers(group),
    queryFn: () => call(api.GET(AT, { params: { path } })),
  }).data
  const change = useMutation({
    mutationFn: (act: () => Promise<Page>) => act(),
    onSuccess: (next) => cache.setQueryData(keys.covers(group), next),
  })
  const [person, setPerson] = useState('')
  const [begins, setBegins] = useState<string | null>(null)
  const [ends, setEnds] = useState<string | null>(null)
  if (!found) return null
  const ready = person !== '' && begins !== null && ends !== null
  return (
    <section aria-labelledby="covers" className="mt-10">
      <h2 id="covers" className="text-xl">{t`Cover`}</h2>
      <p className="text-ink-2">{t`Another tutor can teach this group for some days. They see and do what you can, and only then.`}</p>
      <ul className="mt-1">
        {found.covers.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center gap-x-4 border-line border-b py-1.5"
          >
            <span className="font-semibold">{one.name}</span>
            <span className="text-ink-2">
              {t`${day(one.begins)} to ${day(one.ends)}`}
              {one.teaching && t`, teaching now`}
            </span>
            <Button
              kind="quiet"
              aria-label={t`End the cover by ${one.name}`}
              disabled={change.isPending}
              onClick={() =>
                change.mutate(() =>
                  call(
                    api.DELETE(`${AT}/{cover_id}`, {
                      params: { path: { ...path, cover_id: one.id } },
                    }),
                  ),
                )
              }
            >{t`End it`}</Button>
          </li>
        ))}
      </ul>
      {found.choices.length === 0 ? (
        <p className="mt-2 text-ink-2">{t`Your school has no other tutor who could cover.`}</p>
      ) : (
        <form
          className="mt-3 flex flex-wrap items-end gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            const body = { person: Number(person), begins: begins ?? '', ends: ends ?? '' }
            change.mutate(() => call(api.POST(AT, { params: { path }, body })))
          }}
        >
          <Pick
            label={t`Tutor`}
            options={[
              ['', t`choose`],
              ...found.choices.map((one): [string, string] => [String(one.id), one.name]),
            ]}
            value={person}
            onChange={setPerson}
          />
          <DateField label={t`First day`} day={begins} onDay={setBegins} />
          <DateField label={t`Last day`} day={ends} onDay={setEnds} />
          <Button type="submit" disabled={!ready || change.isPending}>{t`Let them cover`}</Button>
        </form>
      )}
      <Problem error={change.error} />
    </section>
  )
}

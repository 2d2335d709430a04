import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Pick } from '../../composing/Pick'
import type { Things } from './json'
import { kindWords, STARTS } from './kinds'
import { startsQuery } from './queries'

/** Another answer to the same question. */
export function AddPart({
  course,
  taken,
  full,
  onAdd,
}: {
  course: string
  taken: string[]
  full: boolean
  onAdd: (part: Things) => void
}) {
  const starts = useQuery(startsQuery(course)).data?.starts ?? []
  const [start, setStart] = useState('number')
  if (full || starts.length === 0) return null
  const add = () => {
    const found = starts.find((one) => one.start === start)
    if (!found) return
    let id = 'answer'
    for (let next = 2; taken.includes(id); next++) id = `answer${next}`
    onAdd({ ...(found.part as Things), id })
  }
  return (
    <details>
      <summary className="cursor-pointer font-semibold text-gust">{t`Add another answer`}</summary>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Pick
          label={t`Kind of answer`}
          options={Object.keys(STARTS).map((key) => [key, kindWords(key)])}
          value={start}
          onChange={setStart}
        />
        <Button onClick={add}>{t`Add it`}</Button>
      </div>
    </details>
  )
}

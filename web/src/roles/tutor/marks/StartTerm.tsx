import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { DateField } from '../../../ui/DateField'
import { Problem, TextField } from '../../../ui/Field'
import { startTerm } from './queries'

interface Props {
  group: number
  terms: Schemas['TermOut'][]
  onDone?: () => void
}

/** A new term: its name and its days. It takes over what counts from the latest one. */
export function StartTerm({ group, terms, onDone }: Props) {
  const [title, setTitle] = useState('')
  const [begins, setBegins] = useState<string | null>(null)
  const [ends, setEnds] = useState<string | null>(null)
  const navigate = useNavigate()
  const cache = useQueryClient()
  const start = useMutation({
    mutationFn: () =>
      startTerm(group, {
        title: title.trim(),
        begins: begins ?? '',
        ends: ends ?? '',
        like: terms[0]?.id,
      }),
    onSuccess: async (book) => {
      cache.setQueryData(keys.markBook(group, book.term.id), book)
      await cache.invalidateQueries({ queryKey: keys.terms(group) })
      onDone?.()
      navigate(`/tutor/groups/${group}/marks/${book.term.id}`)
    },
  })
  return (
    <form
      aria-label={t`Start a term`}
      className="mt-5 flex flex-wrap items-end gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        start.mutate()
      }}
    >
      <TextField
        label={t`Name of the term`}
        value={title}
        onText={setTitle}
        required
        maxLength={60}
        fieldWidth="w-64"
      />
      <DateField label={t`First day`} day={begins} onDay={setBegins} />
      <DateField label={t`Last day`} day={ends} onDay={setEnds} />
      <Button
        type="submit"
        kind="strong"
        disabled={start.isPending || !begins || !ends}
      >{t`Start the term`}</Button>
      {onDone && <Button kind="quiet" onClick={onDone}>{t`Cancel`}</Button>}
      <div className="basis-full">
        <Problem error={start.error} />
      </div>
    </form>
  )
}

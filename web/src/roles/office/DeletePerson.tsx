import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { keys } from '../../api/keys'
import { Button, buttonClass } from '../../ui/Button'
import { Problem, TextField } from '../../ui/Field'
import { Sheet } from '../../ui/Sheet'
import { type Person, personCalls } from './queries'

/** Deleting somebody: what goes and what stays is said first, and the name is typed. */
export function DeletePerson({ person }: { person: Person }) {
  const [open, setOpen] = useState(false)
  const [name, setName] = useState('')
  const cache = useQueryClient()
  const navigate = useNavigate()
  const remove = useMutation({
    mutationFn: () => personCalls(person.id).remove(name),
    onSuccess: () => {
      navigate('/office/people')
      cache.removeQueries({ queryKey: keys.person(person.id) })
      void cache.invalidateQueries({ queryKey: keys.office })
    },
  })
  if (person.own) return null
  return (
    <section>
      <h2 className="text-xl">{t`Delete`}</h2>
      <p className="mt-1 mb-3 max-w-2xl text-ink-2">{t`Use this when somebody asks for it or has left for good. To keep the account for later, close it instead.`}</p>
      <Button onClick={() => setOpen(true)}>{t`Delete ${person.name}`}</Button>
      <Sheet open={open} onOpenChange={setOpen} title={t`Delete ${person.name}`}>
        <form
          className="mt-4 grid gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            remove.mutate()
          }}
        >
          <p>{t`This deletes their name, mail address, date of birth, messages, notes, written answers, sketches and pages for good, and they can’t sign in any more. Other answers stay in the log, but nobody can tell whose they were. You can’t undo this.`}</p>
          <a
            href={`/api/office/people/${person.id}/data`}
            download
            className={`${buttonClass('plain')} justify-self-start`}
          >{t`Save all their data first`}</a>
          <TextField
            label={t`Type ${person.name} to be sure`}
            required
            autoComplete="off"
            value={name}
            onText={setName}
          />
          <Problem error={remove.error} />
          <Button
            type="submit"
            kind="strong"
            className="justify-self-start"
            disabled={remove.isPending || name.trim() !== person.name}
          >{t`Delete for good`}</Button>
        </form>
      </Sheet>
    </section>
  )
}

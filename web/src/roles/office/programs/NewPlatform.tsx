import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { platforms as platformsKey } from './keys'
import { EMPTY, type Form, PlatformFields } from './PlatformFields'
import { addPlatform } from './queries'

/** A platform that is let in. */
export function NewPlatform({ onDone }: { onDone: () => void }) {
  const cache = useQueryClient()
  const [form, setForm] = useState<Form>(EMPTY)
  const add = useMutation({
    mutationFn: () => addPlatform(form),
    onSuccess: (all) => {
      cache.setQueryData(platformsKey, all)
      onDone()
    },
  })
  return (
    <form
      className="mt-4 grid gap-4 rounded-box bg-sheet p-4"
      onSubmit={(event) => {
        event.preventDefault()
        add.mutate()
      }}
    >
      <h3 className="text-lg">{t`A new platform`}</h3>
      <PlatformFields form={form} set={(change) => setForm({ ...form, ...change })} />
      <p className="flex flex-wrap gap-3">
        <Button type="submit" kind="strong" disabled={add.isPending}>{t`Let it in`}</Button>
        <Button kind="quiet" onClick={onDone}>{t`Never mind`}</Button>
      </p>
      <Problem error={add.error} />
    </form>
  )
}

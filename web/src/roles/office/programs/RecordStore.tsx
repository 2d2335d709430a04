import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ChangedNote } from '../../../account/ChangedNote'
import { useEdit } from '../../../account/useEdit'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Problem, SaveRow, TextField } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Loaded } from '../../../ui/states'
import { recordStore as recordStoreKey } from './keys'
import { type Store, saveStore, setSecret, storeQuery, tryStore } from './queries'
import { Sending } from './Sending'

const LABELS: Record<string, string> = {
  address: t`Address of the store`,
  name: t`Our name there`,
  on: t`Whether records are sent`,
  since: t`Send what happened since`,
}

/** The store that learning records are sent to. */
export function RecordStore() {
  const query = useQuery(storeQuery)
  return (
    <section aria-labelledby="records">
      <h2 id="records" className="text-2xl">{t`Learning records (xAPI)`}</h2>
      <p className="mt-1 max-w-3xl text-ink-2">{t`Each answer, run, level, target met, test and study section opened goes to a record store as a statement. What a test still holds back is sent once it may be told. Statements carry learners’ names.`}</p>
      <Loaded query={query} what={t`the record store`}>
        {(store) => (
          <>
            <Where store={store} />
            {store.address && <Secret store={store} />}
            {store.address && <Sending store={store} />}
          </>
        )}
      </Loaded>
    </section>
  )
}

const edited = ({ address, name, on, since }: Store) => ({ address, name, on, since })

function Where({ store }: { store: Store }) {
  const cache = useQueryClient()
  const edit = useEdit({
    place: 'record-store',
    opened: edited(store),
    version: store.version,
    save: (form, version) => saveStore({ ...form, version }),
    stands: (next: Store) => ({ form: edited(next), version: next.version }),
    onSaved: (next) => cache.setQueryData(recordStoreKey, next),
  })
  const { form, set } = edit
  return (
    <form
      className="mt-4 grid gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        edit.save()
      }}
    >
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <TextField
        label={t`Address of the store, without “statements” at its end`}
        type="url"
        maxLength={300}
        value={form.address}
        onText={(address) => set({ address })}
      />
      <div className="grid items-end gap-4 @3xl:grid-cols-2">
        <TextField
          label={t`Our name there`}
          maxLength={200}
          autoComplete="off"
          value={form.name}
          onText={(name) => set({ name })}
        />
        <TextField
          label={t`Send what happened since`}
          type="date"
          required
          value={form.since}
          onText={(since) => set({ since })}
        />
      </div>
      <Check on={form.on} set={(on) => set({ on })}>{t`Send learning records there`}</Check>
      <ChangedNote conflict={edit.conflict} label={(path) => LABELS[path] ?? path} />
      <SaveRow save={edit} strong />
    </form>
  )
}

function Secret({ store }: { store: Store }) {
  const cache = useQueryClient()
  const [typed, setTyped] = useState('')
  const save = useMutation({
    mutationFn: () => setSecret(typed),
    onSuccess: (next) => {
      setTyped('')
      cache.setQueryData(recordStoreKey, next)
    },
  })
  const trial = useMutation({ mutationFn: tryStore })
  return (
    <form
      className="mt-5 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <TextField
          label={store.has_secret ? t`Another secret` : t`Secret`}
          type="password"
          autoComplete="off"
          required
          maxLength={200}
          value={typed}
          onText={setTyped}
        />
        <Button type="submit" disabled={save.isPending || !typed}>{t`Keep the secret`}</Button>
        <Button disabled={trial.isPending} onClick={() => trial.mutate()}>{t`Try it`}</Button>
      </div>
      <p role="status">
        {trial.data &&
          (trial.data.problem
            ? t`It doesn’t work: ${trial.data.problem}.`
            : t`It works: the store knows us.`)}
        {save.isSuccess && !trial.data && t`The secret is kept. It is never shown again.`}
      </p>
      <Problem error={save.error ?? trial.error} />
    </form>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem, TextField } from '../../ui/Field'
import { Html } from '../../ui/Html'
import { counted } from '../../ui/words'
import { KnownPassword } from './Passwords'

/** Two-step sign-in: turned on and off. */
export function SecondFactor({ on, left }: { on: boolean; left: number }) {
  const cache = useQueryClient()
  const [code, setCode] = useState('')
  const [old, setOld] = useState('')
  const refresh = () => cache.invalidateQueries({ queryKey: keys.account })
  const begin = useMutation({
    mutationFn: () => call(api.POST('/api/account/second-factor', { body: { old } })),
    onSuccess: () => setOld(''),
  })
  const confirm = useMutation({
    mutationFn: () => call(api.PUT('/api/account/second-factor', { body: { code } })),
    onSuccess: refresh,
  })
  const end = useMutation({
    mutationFn: () => call(api.DELETE('/api/account/second-factor', { body: { old } })),
    onSuccess: (next) => {
      cache.setQueryData(keys.account, next)
      begin.reset()
      confirm.reset()
      setCode('')
      setOld('')
    },
  })
  return (
    <section>
      <h2 className="text-xl">{t`Two-step sign-in`}</h2>
      <p className="mt-1 mb-3 max-w-2xl text-ink-2">
        {on
          ? t`We’ll ask for a code each time you sign in. You have ${counted(left, 'spare code')} left, in case you lose the device.`
          : t`You can see other people’s work. So it’s safer to sign in with a code from your device as well as your password.`}
      </p>
      {confirm.data && <Spares spares={confirm.data.spares} />}
      {(on || !begin.data) && (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            if (on) end.mutate()
            else begin.mutate()
          }}
        >
          <KnownPassword value={old} onText={setOld} />
          <Button type="submit" disabled={begin.isPending || end.isPending}>
            {on ? t`Turn off` : t`Set it up`}
          </Button>
        </form>
      )}
      {!on && begin.data && (
        <form
          className="grid justify-items-start gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            confirm.mutate()
          }}
        >
          <p>{t`Scan this with your device, or type in the letters:`}</p>
          <div role="img" aria-label={t`QR code`} className="bg-white p-2">
            <Html html={begin.data.picture} />
          </div>
          <p className="font-semibold tracking-wider break-all">{begin.data.secret}</p>
          <TextField
            label={t`Six-digit code it shows now`}
            fieldWidth="w-40"
            inputMode="numeric"
            autoComplete="one-time-code"
            required
            minLength={6}
            maxLength={20}
            value={code}
            onText={setCode}
          />
          <Button type="submit" kind="strong" disabled={confirm.isPending}>{t`Turn on`}</Button>
        </form>
      )}
      <Problem error={begin.error ?? confirm.error ?? end.error} />
    </section>
  )
}

function Spares({ spares }: { spares: string[] }) {
  return (
    <div role="status" className="mb-4 rounded-box bg-sheet p-4">
      <p>{t`Spare codes, in case you lose your device. Each works once. Keep them somewhere safe: we show them only now.`}</p>
      <ul className="mt-2 columns-2 font-semibold tracking-wider tabular-nums @3xl:columns-4">
        {spares.map((spare) => (
          <li key={spare}>{spare}</li>
        ))}
      </ul>
    </div>
  )
}

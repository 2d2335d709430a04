import { useState } from 'react'
import { Button } from '../../ui/Button'
import { Input, Labelled, Problem } from '../../ui/Field'

interface Props {
  label: string
  verb: string
  send: { mutate: (code: string) => void; isPending: boolean; error: Error | null }
}

/** A code to type, however it is spaced, and what it does. */
export function CodeForm({ label, verb, send }: Props) {
  const [code, setCode] = useState('')
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        send.mutate(code)
      }}
    >
      <Labelled label={label}>
        <Input
          value={code}
          onChange={(event) => setCode(event.target.value)}
          required
          minLength={4}
          maxLength={20}
          autoComplete="off"
          autoCapitalize="characters"
          className="w-48 font-semibold tracking-wider uppercase"
        />
      </Labelled>
      <Button type="submit" disabled={send.isPending}>
        {verb}
      </Button>
      <Problem error={send.error} />
    </form>
  )
}

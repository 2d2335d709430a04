import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { TextField } from '../../../ui/Field'
import { numbersIn } from './shape'

interface Props {
  value: number[]
  onChange: (numbers: number[]) => void
}

/** Numbers that a formula looked for from examples may have in it; taken over once all are read. */
export function Constants({ value, onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null)
  const unread = typed !== null && numbersIn(typed) === null
  return (
    <div>
      <TextField
        label={t`Numbers a formula may have, for questions from examples`}
        value={typed ?? value.join(', ')}
        maxLength={200}
        fieldWidth="max-w-xl w-full"
        aria-invalid={unread || undefined}
        onText={(text) => {
          setTyped(text)
          const numbers = numbersIn(text)
          if (numbers) onChange(numbers)
        }}
        onBlur={() => !unread && setTyped(null)}
      />
      <p role="status" className="text-sm text-wrong">
        {unread && t`Write numbers above nought with commas between, 20 at most.`}
      </p>
    </div>
  )
}

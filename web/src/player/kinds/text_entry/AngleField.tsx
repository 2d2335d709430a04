import { t } from '@lingui/core/macro'
import { useId } from 'react'

interface Props {
  value: string
  onChange: (value: string) => void
  fieldRef?: (node: HTMLInputElement | null) => void
  border: string
  readOnly: boolean
  wrong: boolean
  noteId?: string
}

const PLACES = [
  { name: t`Degrees`, sign: '°' },
  { name: t`Minutes`, sign: '′' },
] as const

/** Degrees and minutes of arc, a field for each. */
export function AngleField({ value, onChange, fieldRef, border, readOnly, wrong, noteId }: Props) {
  const id = useId()
  const typed = value.split(' ')
  const change = (place: number, text: string) => {
    const both = PLACES.map((_, i) => (i === place ? text.replace(/\s/g, '') : (typed[i] ?? '')))
    onChange(both.some(Boolean) ? both.join(' ') : '')
  }
  return (
    <div className="flex gap-3">
      {PLACES.map(({ name, sign }, place) => (
        <div
          key={name}
          className={`flex w-28 items-center rounded-box border-2 bg-sheet ${border} has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-gust`}
        >
          <input
            id={`${id}-${place}`}
            ref={place === 0 ? fieldRef : undefined}
            aria-label={name}
            className="min-w-0 flex-1 rounded-box bg-transparent px-3.5 py-2.5 text-[1.25rem] tabular-nums outline-none"
            inputMode="decimal"
            autoComplete="off"
            maxLength={20}
            value={typed[place] ?? ''}
            readOnly={readOnly}
            aria-invalid={wrong || undefined}
            aria-describedby={noteId}
            onChange={(event) => change(place, event.target.value)}
          />
          <span aria-hidden="true" className="pr-3.5 text-ink-2">
            {sign}
          </span>
        </div>
      ))}
    </div>
  )
}

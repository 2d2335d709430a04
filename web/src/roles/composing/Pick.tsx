import { useId } from 'react'
import { fieldClass, Labelled } from '../../ui/Field'

/** What cannot be like this, at its field. */
export function Wrong({ id, says }: { id?: string; says?: string }) {
  return says ? (
    <p id={id} className="text-wrong">
      {says}
    </p>
  ) : null
}

/** One of several, with what cannot be said below it. */
export function Pick({
  label,
  options,
  value,
  problem,
  onChange,
}: {
  label: string
  options: [string, string][]
  value: string
  problem?: string
  onChange: (value: string) => void
}) {
  const id = useId()
  return (
    <div className="grid content-start gap-1">
      <Labelled label={label}>
        <select
          className={fieldClass}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? id : undefined}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        >
          {options.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </Labelled>
      <Wrong id={id} says={problem} />
    </div>
  )
}

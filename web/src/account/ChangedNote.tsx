import { t } from '@lingui/core/macro'
import { useEffect, useRef, useState } from 'react'
import { Button } from '../ui/Button'
import type { Choice, Json } from './merging'
import type { Conflict } from './useEdit'

interface Props {
  conflict: Conflict | null
  /** What a path of the form is called. */
  label: (path: string) => string
  /** A value of it in words. */
  words?: (path: string, value: Json | undefined) => string
}

/** That somebody else saved in between: what of theirs is taken over, and what is to be chosen. */
export function ChangedNote({ conflict, label, words = plain }: Props) {
  const [chosen, setChosen] = useState<Record<string, Choice>>({})
  const heading = useRef<HTMLHeadingElement>(null)
  const open = conflict !== null
  useEffect(() => {
    if (open) heading.current?.focus()
  }, [open])
  if (!conflict) return null
  const { both, taken } = conflict.found
  return (
    <section
      role="alert"
      aria-label={t`Changed by somebody else`}
      className="my-4 max-w-3xl rounded-box border border-part bg-sheet p-4"
    >
      <h2
        ref={heading}
        tabIndex={-1}
        className="text-lg"
      >{t`Somebody else saved this while you had it open`}</h2>
      <p className="mt-1">
        {t`Your changes are not saved yet.`}
        {taken.length > 0 &&
          t` Only they changed: ${[...new Set(taken.map(label))].join(', ')}. That is kept.`}
      </p>
      {both.map(({ path, mine, theirs }) => (
        <fieldset key={path} className="mt-3">
          <legend className="font-semibold">
            {label(path)}
            {t`: you both changed it`}
          </legend>
          {(['mine', 'theirs'] as const).map((one) => (
            <label key={one} className="flex items-start gap-3 py-1">
              <input
                type="radio"
                name={`changed-${path}`}
                className="mt-0.5 size-5 shrink-0 accent-gust"
                checked={(chosen[path] ?? 'mine') === one}
                onChange={() => setChosen({ ...chosen, [path]: one })}
              />
              <span className="whitespace-pre-wrap">
                {one === 'mine' ? 'Yours: ' : 'Theirs: '}
                {words(path, one === 'mine' ? mine : theirs)}
              </span>
            </label>
          ))}
        </fieldset>
      ))}
      <div className="mt-3 flex flex-wrap gap-3">
        <Button kind="strong" onClick={() => conflict.settle(chosen)}>{t`Save both`}</Button>
        <Button onClick={conflict.takeTheirs}>{t`Discard my changes`}</Button>
      </div>
    </section>
  )
}

/** A value as it can be read without knowing what it is of. */
export function plain(_: string, value: Json | undefined): string {
  if (value === undefined || value === null || value === '') return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map(String).join(', ')
  return typeof value === 'object' ? JSON.stringify(value) : String(value)
}

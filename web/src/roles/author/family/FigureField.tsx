import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { Labelled, TextArea, TextField } from '../../../ui/Field'
import { Wrong } from '../../composing/Pick'
import { useFamily } from './context'
import { put, type Things, textOf } from './json'
import type { FieldProps } from './kinds'

const MOST_BYTES = 40_000

/** A drawing: from a file of this device, or written; and what it shows, in words. */
export function FigureField({ field, value, onChange, path }: FieldProps) {
  const { problemAt } = useFamily()
  const [refused, setRefused] = useState('')
  const all = (value ?? {}) as Things
  const set = (name: string, next: string) => {
    const made = put(all, name, next || undefined)
    onChange(Object.keys(made).length === 0 ? undefined : made)
  }
  const take = async (file: File | undefined) => {
    if (!file) return
    const svg = file.size > MOST_BYTES ? '' : await file.text()
    if (!svg.includes('<svg'))
      return setRefused(t`We take drawings as SVG files, up to 40 kB. This isn’t one.`)
    setRefused('')
    const { file: _, ...rest } = all
    onChange({ alt: '', ...rest, svg: svg.slice(svg.indexOf('<svg')) })
  }
  return (
    <fieldset
      className="grid min-w-0 gap-2 @md:col-span-2"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        void take(event.dataTransfer.files[0])
      }}
    >
      <legend className="mb-1 font-semibold">{field.label}</legend>
      <Labelled label={t`A drawing from this device (SVG). You can drop it here.`}>
        <input
          type="file"
          accept=".svg,image/svg+xml"
          onChange={({ target }) => void take(target.files?.[0])}
        />
      </Labelled>
      {textOf(all.file) && (
        <p className="text-ink-2">{t`From the file ${textOf(all.file)} of this topic.`}</p>
      )}
      <Wrong says={refused || problemAt(path, true)} />
      {value !== undefined && (
        <>
          <TextField
            label={t`What it shows, for who can’t see it`}
            value={textOf(all.alt)}
            onText={(text) => set('alt', text)}
          />
          {all.svg !== undefined && (
            <details>
              <summary className="cursor-pointer text-gust">{t`The drawing as text`}</summary>
              <TextArea
                className="mt-1 font-mono text-sm"
                aria-label={t`The drawing as text`}
                rows={8}
                spellCheck={false}
                value={textOf(all.svg)}
                onChange={({ target }) => set('svg', target.value)}
              />
            </details>
          )}
        </>
      )}
    </fieldset>
  )
}

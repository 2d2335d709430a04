import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { type ReactNode, useEffect, useRef } from 'react'
import { Button } from '../ui/Button'
import { Problem } from '../ui/Field'
import { FileLines } from './FileLines'
import { SendingLines } from './SendingLines'
import type { Source } from './sources'
import { useSending } from './useSending'

interface Props {
  source: Source
  /** Endings of names that are taken. */
  endings: string[]
  most: number
  /** What the button says. */
  add: string
  says: string
  /** Other ways to add some. */
  ways?: (send: (file: File) => void, count: number) => ReactNode
  onNames?: (names: string[]) => void
}

const NONE: NonNullable<Source['files']> = []

/** Files of one's own in a place: those that are there, those on their way, and more. */
export function OwnFiles({ source, endings, most, add, says, ways, onNames }: Props) {
  const { closed, calls, changed } = source
  const { sendings, send, drop } = useSending(source.place, source.part, calls, changed)
  const input = useRef<HTMLInputElement>(null)
  const remove = useMutation({ mutationFn: calls.remove, onSettled: changed })
  const files = source.files ?? NONE
  const names = files.map((one) => one.name).join('\n')
  const told = useRef(onNames)
  told.current = onNames
  const known = source.files !== undefined
  useEffect(() => {
    if (known) told.current?.(names ? names.split('\n') : [])
  }, [names, known])
  const take = (list: FileList | null) => {
    for (const file of list ?? []) void send(file)
  }
  const room = files.length + sendings.length < most
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset would ask for a legend of its own
    <div
      role="group"
      aria-label={t`Files`}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        if (!closed) take(event.dataTransfer.files)
      }}
    >
      <FileLines files={files} onRemove={closed ? undefined : (file) => remove.mutate(file.id)} />
      <SendingLines sendings={sendings} drop={drop} />
      {!closed && room && (
        <p className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <Button onClick={() => input.current?.click()}>{add}</Button>
          {ways?.((file) => void send(file), files.length)}
          <span className="text-sm text-ink-2">{says}</span>
          <input
            ref={input}
            type="file"
            multiple={most > 1}
            accept={endings.map((one) => `.${one}`).join(',')}
            aria-label={add}
            tabIndex={-1}
            className="sr-only"
            onChange={(event) => {
              take(event.target.files)
              event.target.value = ''
            }}
          />
        </p>
      )}
      {closed && files.length === 0 && <p className="text-ink-2">{closed}</p>}
      <Problem error={remove.error ?? source.error} />
    </div>
  )
}

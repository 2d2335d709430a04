import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useEffect, useRef } from 'react'
import { keys } from '../api/keys'
import { Button } from '../ui/Button'
import { Problem } from '../ui/Field'
import { FileLines } from './FileLines'
import type { FilesPlace } from './place'
import { fileCalls, filesQuery } from './queries'
import { SendingLines } from './SendingLines'
import { useSending } from './useSending'

interface Props {
  at: FilesPlace
  course: string
  part: string
  /** Endings of names that are taken. */
  endings: string[]
  most: number
  /** What the button says. */
  add: string
  says: string
  /** Other ways to add some. */
  ways?: (send: (file: File) => void, count: number) => ReactNode
  onNames?: (names: string[]) => void
  /** Whether some may come from elsewhere, as from a phone. */
  watching?: boolean
}

/** Files of one's own at a question: those that are there, those on their way, and more. */
export function OwnFiles(props: Props) {
  const { at, course, part, endings, most, add, says, ways, onNames, watching } = props
  const cache = useQueryClient()
  const query = useQuery(filesQuery(at, watching))
  const { sendings, send, drop } = useSending(course, at.question, part)
  const input = useRef<HTMLInputElement>(null)
  const remove = useMutation({
    mutationFn: fileCalls(course, at.question).remove,
    onSuccess: (files) => cache.setQueryData(keys.files(at.question), files),
  })
  const files = (query.data?.files ?? []).filter((one) => one.part === part && one.arrived)
  const closed = query.data?.closed[part] ?? ''
  const names = files.map((one) => one.name).join('\n')
  const told = useRef(onNames)
  told.current = onNames
  const known = query.data !== undefined
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
      <Problem error={remove.error ?? query.error} />
    </div>
  )
}

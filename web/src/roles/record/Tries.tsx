import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { ACTIVITIES, kindOf } from '../../activities/descriptors'
import type { Purpose, Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { duration } from '../../ui/durations'
import { fieldClass, Input, Labelled } from '../../ui/Field'
import { Sign } from '../../ui/Sign'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { capital, moment } from '../../ui/words'
import { type TriesFilter, triesQuery, type Whose } from './queries'

type Line = Schemas['TryLineOut']

const RESULTS: [Line['result'], string][] = [
  ['right', 'right'],
  ['partly', t`partly right`],
  ['wrong', 'wrong'],
  ['not_taught', t`not taught yet`],
  ['waiting', t`not marked yet`],
]

interface Props {
  whose: Whose
  topics: Schemas['PlaceOut'][]
  tryAt: (id: number) => string
}

/** Every try, filtered and searched on the server, a page at a time. */
export function Tries({ whose, topics, tryAt }: Props) {
  const [filter, setFilter] = useState<TriesFilter>({})
  const [pages, setPages] = useState<number[]>([])
  const words = useDeferredValue(filter.words)
  const query = useQuery(triesQuery(whose, { ...filter, words, older: pages.at(-1) }))
  const change = (next: TriesFilter) => {
    setFilter({ ...filter, ...next })
    setPages([])
  }
  return (
    <section aria-labelledby="tries" className="mt-9 print:hidden">
      <h2 id="tries" className="text-xl">{t`Every try`}</h2>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Labelled label={t`Search`}>
          <Input
            type="search"
            value={filter.words ?? ''}
            maxLength={80}
            onChange={(event) => change({ words: event.target.value || undefined })}
          />
        </Labelled>
        <Choice
          label={t`Topic`}
          value={filter.topic}
          options={topics.map(({ key, title }) => [key, title])}
          onChange={(topic) => change({ topic })}
        />
        <Choice
          label={t`Kind of work`}
          value={filter.purpose}
          options={Object.entries(ACTIVITIES).map(([key, { kind }]) => [key, kind])}
          onChange={(purpose) => change({ purpose: purpose as Purpose | undefined })}
        />
        <Choice
          label={t`Result`}
          value={filter.result}
          options={RESULTS}
          onChange={(result) => change({ result: result as Line['result'] | undefined })}
        />
      </div>
      <Loaded query={query} what={t`the tries`}>
        {(page) => (
          <>
            <p role="status" className="mt-3 text-ink-2">
              {page.total === 0
                ? t`No tries match.`
                : t`${page.total} ${page.total === 1 ? 'try' : 'tries'}, the latest first`}
            </p>
            <ul className="mt-1">
              {page.tries.map((line) => (
                <TryLine key={line.id} line={line} to={tryAt(line.id)} />
              ))}
            </ul>
            <p className="mt-4 flex gap-3">
              {pages.length > 0 && (
                <Button onClick={() => setPages(pages.slice(0, -1))}>{t`Later`}</Button>
              )}
              {page.older !== null && (
                <Button onClick={() => setPages([...pages, page.older ?? 0])}>{t`Earlier`}</Button>
              )}
            </p>
          </>
        )}
      </Loaded>
    </section>
  )
}

function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: string | undefined
  options: [string, string][]
  onChange: (value: string | undefined) => void
}) {
  return (
    <Labelled label={label}>
      <select
        className={fieldClass}
        value={value ?? ''}
        onChange={(event) => onChange(event.target.value || undefined)}
      >
        <option value="">{t`all`}</option>
        {options.map(([key, title]) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </select>
    </Labelled>
  )
}

function TryLine({ line, to }: { line: Line; to: string }) {
  const plain = line.result === 'not_taught' || line.result === 'waiting'
  return (
    <li className="grid grid-cols-[1.75rem_minmax(0,1fr)] items-start gap-x-3 border-b border-line py-2 @3xl:grid-cols-[1.75rem_minmax(0,1fr)_14rem_9rem]">
      {plain ? (
        <Sign kind="note" size={20} word={false} />
      ) : (
        <Sign kind={line.result as 'right' | 'partly' | 'wrong'} size={20} />
      )}
      <span>
        <TextLink to={to} className="font-semibold">
          {line.title}
        </TextLink>
        {line.number > 1 && <span className="text-ink-2">{t`, try ${line.number}`}</span>}
        <span className="block text-sm text-ink-2">
          {line.topic.title}, {kindOf(line.purpose)}
          {line.result === 'not_taught' && t`, not taught yet`}
          {line.why && `; ${line.why}`}
        </span>
      </span>
      <span className="col-start-2 text-sm text-ink-2 tabular-nums @3xl:col-start-auto">
        {t`${duration(line.seconds)} for ${duration(line.needed)}`}
        {line.sure !== null && t`, ${line.sure}% sure`}
      </span>
      <span className="col-start-2 text-sm text-ink-2 @3xl:col-start-auto @3xl:text-right">
        {capital(moment(line.at))}
      </span>
    </li>
  )
}

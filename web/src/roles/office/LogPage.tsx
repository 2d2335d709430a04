import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { DateField } from '../../ui/DateField'
import { TextField } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { moment } from '../../ui/words'
import { Pick } from '../composing/Pick'
import { Older } from './Older'
import { type AuditKind, type LogFilter, logQuery } from './queries'
import { useFilter } from './useFilter'

/** Who did what, when and from where. */
export default function LogPage() {
  useTitle(t`Log`)
  const { get, set } = useFilter()
  const filter: LogFilter = {
    ...(get('text') && { text: get('text') }),
    ...(get('kind') && { kind: get('kind') as AuditKind }),
    ...(get('since') && { since: get('since') }),
    ...(get('until') && { until: get('until') }),
    ...(get('older') && { older: Number(get('older')) }),
  }
  const query = useQuery(logQuery(filter))
  return (
    <main id="main" className="max-w-6xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Log`}</h1>
      <p className="mt-1 text-ink-2">{t`What was done with accounts and groups. Entries are never changed or removed. Answers are not in it.`}</p>
      <search className="mt-5 flex flex-wrap items-end gap-4">
        <TextField
          label={t`Name, address or word`}
          type="search"
          maxLength={80}
          value={get('text')}
          onText={(text) => set({ text: text, older: '' })}
        />
        <Pick
          label={t`What`}
          options={[
            ['', 'everything'],
            ...(query.data?.kinds ?? []).map((one): [string, string] => [one.kind, one.what]),
          ]}
          value={get('kind')}
          onChange={(kind) => set({ kind, older: '' })}
        />
        {(['since', 'until'] as const).map((name) => (
          <DateField
            key={name}
            label={name === 'since' ? t`From` : t`To`}
            day={get(name) || null}
            onDay={(day) => set({ [name]: day ?? '', older: '' })}
          />
        ))}
      </search>
      <Loaded query={query} what={t`the log`}>
        {({ entries, older }) => (
          <>
            {entries.length === 0 && <p className="mt-5">{t`No matching entries.`}</p>}
            <ul className="mt-4">
              {entries.map((one) => (
                <li
                  key={one.id}
                  className="grid gap-x-6 border-b border-line py-2 @3xl:grid-cols-[11rem_minmax(0,1fr)_minmax(0,1fr)_10rem]"
                >
                  <time dateTime={one.at} className="text-ink-2 tabular-nums">
                    {moment(one.at)}
                  </time>
                  <span>
                    {one.what}
                    {one.says && <span className="block text-ink-2">{one.says}</span>}
                  </span>
                  <span>
                    {one.name && one.person && (
                      <TextLink to={`/office/people/${one.person}`}>{one.name}</TextLink>
                    )}
                    {one.by && one.by !== one.name && (
                      <span className="block text-ink-2">{t`by ${one.by}`}</span>
                    )}
                  </span>
                  <span className="text-ink-2 tabular-nums">{one.address ?? t`on the server`}</span>
                </li>
              ))}
            </ul>
            <Older older={older} at="/office/log" query={filter} />
          </>
        )}
      </Loaded>
    </main>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { buttonClass } from '../../ui/Button'
import { TextField } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted } from '../../ui/words'
import { Pick } from '../composing/Pick'
import { Pages } from './Pages'
import { type AccountState, type PeopleFilter, peopleQuery, type Role } from './queries'
import { useFilter } from './useFilter'
import { ROLE_LIST, ROLE_WORDS, STATE_WORDS } from './words'

const ROLES: [string, string][] = [
  ['', 'any'],
  ...ROLE_LIST.map((role): [string, string] => [role, ROLE_WORDS[role]]),
]
const STATES: [string, string][] = [
  ['', 'any'],
  ...Object.entries(STATE_WORDS).map(([state, says]): [string, string] => [state, capital(says)]),
]

/** Everybody who is or was something at the school. */
export default function PeopleListPage() {
  useTitle(t`People`)
  const { get, set } = useFilter()
  const filter: PeopleFilter = {
    ...(get('text') && { text: get('text') }),
    ...(get('role') && { role: get('role') as Role }),
    ...(get('state') && { state: get('state') as AccountState }),
    page: Number(get('page')) || 1,
  }
  const query = useQuery(peopleQuery(filter))
  return (
    <main id="main" className="max-w-6xl px-5 py-8 @5xl:px-8">
      <div className="flex flex-wrap items-end justify-between gap-4">
        <h1 className="text-3xl">{t`People`}</h1>
        <p className="flex flex-wrap gap-3">
          <Link to="/office/people/list" className={buttonClass('plain')}>{t`Import people`}</Link>
          <Link
            to="/office/people/invite"
            className={buttonClass('strong')}
          >{t`Invite a person`}</Link>
        </p>
      </div>
      <search className="mt-5 flex flex-wrap items-end gap-4">
        <TextField
          label={t`User name or mail address`}
          type="search"
          maxLength={80}
          value={get('text')}
          onText={(text) => set({ text: text, page: '' })}
        />
        <Pick
          label={t`Role`}
          options={ROLES}
          value={get('role')}
          onChange={(role) => set({ role, page: '' })}
        />
        <Pick
          label={t`Account`}
          options={STATES}
          value={get('state')}
          onChange={(state) => set({ state, page: '' })}
        />
      </search>
      <Loaded query={query} what={t`people`}>
        {({ people, page, pages, all }) => (
          <>
            <p role="status" className="mt-4 text-ink-2">
              {all === 0 ? t`No people match.` : capital(counted(all, 'person'))}
            </p>
            <ul className="mt-1">
              {people.map((one) => (
                <li
                  key={one.id}
                  className="grid gap-x-6 border-b border-line py-2.5 @3xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)_minmax(0,2fr)]"
                >
                  <span className="min-w-0">
                    <TextLink to={`/office/people/${one.id}`} className="font-semibold">
                      {one.name}
                    </TextLink>
                    <span className="block truncate text-ink-2">{one.mail || t`no mail`}</span>
                  </span>
                  <span>
                    {one.roles.map((role) => ROLE_WORDS[role]).join(', ') || t`no role at present`}
                    <span className="block text-ink-2">{one.groups.join(', ')}</span>
                  </span>
                  <span className={one.state === 'open' ? 'text-ink-2' : 'font-semibold'}>
                    {STATE_WORDS[one.state]}
                  </span>
                </li>
              ))}
            </ul>
            <Pages page={page} pages={pages} go={(next) => set({ page: String(next) })} />
          </>
        )}
      </Loaded>
    </main>
  )
}

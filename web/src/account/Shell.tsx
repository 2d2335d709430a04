import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { lazy, type ReactNode, Suspense, useEffect, useState } from 'react'
import { NavLink, Outlet, useNavigate } from 'react-router'
import { Mark } from '../ui/Mark'
import { OfflineNote } from '../ui/OfflineNote'
import { Loading } from '../ui/states'
import { useKeys } from '../ui/useKeys'
import { initialsClass, initialsOf } from './initials'
import { noticesQuery } from './notices'
import { keepRole, ROLES, type Role, rolesOf } from './role'
import type { Account } from './session'

// Menus and dialogs are fetched after the page stands.
const AccountMenu = lazy(() => import('./AccountMenu'))
const KeySheet = lazy(() => import('../ui/KeySheet'))

export interface Place {
  to: string
  label: string
  /** Whether only this very address is the place. */
  end?: boolean
  /** What waits there, and what it is, for who cannot see the number. */
  count?: { number: number; of: string }
}

interface Props {
  account: Account
  as: Role
  home: string
  places: Place[]
  /** Further places, in the account's menu. */
  links?: { label: string; to: string }[]
  /** What stands beside the places, such as a switch between courses. */
  beside?: ReactNode
}

const SHELL_KEYS: [string, string][] = [
  ['?', t`This sheet`],
  ['Tab', t`Next link or button`],
  ['Enter', t`Open or press`],
]

const COMMON = [
  { label: t`Codes and links`, to: '/people' },
  { label: t`Messages and mail`, to: '/messages' },
  { label: t`My account`, to: '/account' },
]

/** The bar at the top with the places of a role, and the page below it. */
export function Shell({ account, as, home, places, links = [], beside }: Props) {
  const [keys, setKeys] = useState(false)
  useKeys({ '?': () => setKeys(true) })
  useEffect(() => void keepRole(account, as), [account, as])
  return (
    <>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-sheet focus:p-3 focus:text-ink"
      >{t`Skip to the page`}</a>
      <header className="on-deep bg-deep text-on-deep">
        <div className="flex flex-wrap items-center gap-x-8 px-5 @5xl:px-8">
          <NavLink
            to={home}
            className="flex items-center gap-2.5 py-3"
            aria-label={t`Vendaval, ${places[0]?.label ?? 'home'}`}
          >
            <Mark />
            <span className="font-heading text-2xl font-bold">{t`vendaval`}</span>
          </NavLink>
          <nav
            aria-label={t`Main`}
            className="order-last w-full @3xl:order-none @3xl:w-auto @3xl:flex-1"
          >
            <ul className="flex gap-x-5 overflow-x-auto @3xl:gap-x-7">
              {places.map(({ to, label, end, count }) => (
                <li key={to}>
                  <NavLink
                    to={to}
                    end={end ?? false}
                    className={({ isActive }) =>
                      `flex items-center gap-2 border-b-4 py-3.5 whitespace-nowrap ${
                        isActive
                          ? 'border-sun font-semibold text-on-deep'
                          : 'border-transparent text-on-deep-2 hover:text-on-deep'
                      }`
                    }
                  >
                    {label}
                    {!!count?.number && <Count number={count.number} of={count.of} />}
                  </NavLink>
                </li>
              ))}
            </ul>
          </nav>
          <div className="ml-auto flex items-center gap-4">
            {beside}
            <RoleSwitch account={account} as={as} />
            <Messages />
            <Suspense fallback={<span className={initialsClass}>{initialsOf(account.name)}</span>}>
              <AccountMenu
                name={account.name}
                links={[...links, ...COMMON]}
                onKeys={() => setKeys(true)}
              />
            </Suspense>
          </div>
        </div>
      </header>
      <OfflineNote />
      <Suspense fallback={<Loading what={t`the page`} />}>
        <Outlet />
      </Suspense>
      {keys && (
        <Suspense>
          <KeySheet open={keys} onOpenChange={setKeys} keys={SHELL_KEYS} />
        </Suspense>
      )}
    </>
  )
}

function Count({ number, of }: { number: number; of: string }) {
  return (
    <span className="rounded-full bg-on-deep px-2 text-sm font-semibold text-deep">
      {number}
      <span className="sr-only"> {of}</span>
    </span>
  )
}

/** The way to messages, with how many are unread. */
function Messages() {
  const unread = useQuery(noticesQuery).data?.unread ?? 0
  return (
    <NavLink
      to="/messages"
      className="flex items-center gap-2 py-3 text-on-deep-2 hover:text-on-deep aria-[current=page]:text-on-deep"
    >
      <span className={unread ? '' : 'sr-only @3xl:not-sr-only'}>{t`Messages`}</span>
      {unread > 0 && <Count number={unread} of="unread" />}
    </NavLink>
  )
}

export const barSelect =
  'max-w-48 rounded-lg border border-on-deep-2 bg-deep px-2 py-1.5 text-sm text-on-deep'

/** For who holds several roles: the bar and the pages change with it. */
function RoleSwitch({ account, as }: { account: Account; as: Role }) {
  const navigate = useNavigate()
  const roles = rolesOf(account)
  if (roles.length < 2) return null
  return (
    <label>
      <span className="sr-only">{t`Role`}</span>
      <select
        value={as}
        onChange={(event) => navigate(ROLES[event.target.value as Role]?.home ?? '/')}
        className={barSelect}
      >
        {roles.map((one) => (
          <option key={one} value={one}>
            {t`As`} {ROLES[one]?.label.toLowerCase()}
          </option>
        ))}
      </select>
    </label>
  )
}

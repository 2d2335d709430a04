import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { NavLink, Outlet } from 'react-router'
import { missesQuery } from '../features/review/queries'
import { KeySheet } from '../ui/KeySheet'
import { useKeys } from '../ui/useKeys'
import { AccountMenu } from './AccountMenu'
import { Mark } from './Mark'
import { OfflineNote } from './OfflineNote'
import type { Session } from './session'

const PLACES = [
  { to: '/', label: 'Today' },
  { to: '/topics', label: 'Topics' },
  { to: '/practise', label: 'Practise' },
  { to: '/review', label: 'Review' },
]

const SHELL_KEYS: [string, string][] = [
  ['?', 'This sheet'],
  ['Tab', 'Next link or button'],
  ['Enter', 'Open or press it'],
]

export function Shell({ account }: { account: NonNullable<Session['account']> }) {
  const misses = useQuery(missesQuery)
  const [keys, setKeys] = useState(false)
  useKeys({ '?': () => setKeys(true) })
  return (
    <>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-sheet focus:p-3 focus:text-ink"
      >
        Skip to the page
      </a>
      <header className="on-deep bg-deep text-on-deep">
        <div className="flex flex-wrap items-center gap-x-8 px-5 @5xl:px-8">
          <NavLink to="/" className="flex items-center gap-2.5 py-3" aria-label="Vendaval, Today">
            <Mark />
            <span className="font-heading text-2xl font-bold">vendaval</span>
          </NavLink>
          <nav
            aria-label="Main"
            className="order-last w-full @3xl:order-none @3xl:w-auto @3xl:flex-1"
          >
            <ul className="flex gap-x-5 overflow-x-auto @3xl:gap-x-7">
              {PLACES.map(({ to, label }) => (
                <li key={to}>
                  <NavLink
                    to={to}
                    end={to === '/'}
                    className={({ isActive }) =>
                      `flex items-center gap-2 border-b-4 py-3.5 whitespace-nowrap ${
                        isActive
                          ? 'border-sun font-semibold text-on-deep'
                          : 'border-transparent text-on-deep-2 hover:text-on-deep'
                      }`
                    }
                  >
                    {label}
                    {to === '/review' && !!misses.data?.total && (
                      <span className="rounded-full bg-on-deep px-2 text-sm font-semibold text-deep">
                        {misses.data.total}
                        <span className="sr-only"> missed questions</span>
                      </span>
                    )}
                  </NavLink>
                </li>
              ))}
            </ul>
          </nav>
          <div className="ml-auto">
            <AccountMenu name={account.name} onKeys={() => setKeys(true)} />
          </div>
        </div>
      </header>
      <OfflineNote />
      <Outlet />
      <KeySheet open={keys} onOpenChange={setKeys} keys={SHELL_KEYS} />
    </>
  )
}

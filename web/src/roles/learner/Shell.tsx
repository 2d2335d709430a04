import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { NavLink, Outlet, useNavigate } from 'react-router'
import { useCourse, useCourses, useTo } from '../../account/course'
import { initialsClass, initialsOf } from '../../account/initials'
import type { Account } from '../../account/session'
import { Mark } from '../../ui/Mark'
import { OfflineNote } from '../../ui/OfflineNote'
import { Loading } from '../../ui/states'
import { useKeys } from '../../ui/useKeys'
import { missesQuery } from './queries'

// Menus and dialogs are fetched after the page stands.
const AccountMenu = lazy(() => import('../../account/AccountMenu'))
const KeySheet = lazy(() => import('../../ui/KeySheet'))

const PLACES = [
  { place: '/', label: 'Today' },
  { place: '/topics', label: 'Topics' },
  { place: '/practise', label: 'Practise' },
  { place: '/review', label: 'Review' },
]

const SHELL_KEYS: [string, string][] = [
  ['?', 'This sheet'],
  ['Tab', 'Next link or button'],
  ['Enter', 'Open or press it'],
]

export function Shell({ account }: { account: Account }) {
  const misses = useQuery(missesQuery(useCourse()))
  const to = useTo()
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
          <NavLink
            to={to('/')}
            className="flex items-center gap-2.5 py-3"
            aria-label="Vendaval, Today"
          >
            <Mark />
            <span className="font-heading text-2xl font-bold">vendaval</span>
          </NavLink>
          <nav
            aria-label="Main"
            className="order-last w-full @3xl:order-none @3xl:w-auto @3xl:flex-1"
          >
            <ul className="flex gap-x-5 overflow-x-auto @3xl:gap-x-7">
              {PLACES.map(({ place, label }) => (
                <li key={place}>
                  <NavLink
                    to={to(place)}
                    end={place === '/'}
                    className={({ isActive }) =>
                      `flex items-center gap-2 border-b-4 py-3.5 whitespace-nowrap ${
                        isActive
                          ? 'border-sun font-semibold text-on-deep'
                          : 'border-transparent text-on-deep-2 hover:text-on-deep'
                      }`
                    }
                  >
                    {label}
                    {place === '/review' && !!misses.data?.total && (
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
          <div className="ml-auto flex items-center gap-4">
            <CourseSwitch />
            <Suspense fallback={<span className={initialsClass}>{initialsOf(account.name)}</span>}>
              <AccountMenu name={account.name} onKeys={() => setKeys(true)} />
            </Suspense>
          </div>
        </div>
      </header>
      <OfflineNote />
      <Suspense fallback={<Loading what="the page" />}>
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

/** The course shown, and the way to another; nothing where there is one only. */
function CourseSwitch() {
  const { course, courses } = useCourses()
  const navigate = useNavigate()
  if (courses.length < 2) return null
  return (
    <label className="flex items-center gap-2 text-sm text-on-deep-2">
      <span className="sr-only">Course</span>
      <select
        value={course.key}
        onChange={(event) => navigate(`/courses/${event.target.value}`)}
        className="max-w-48 rounded-lg border border-on-deep-2 bg-deep px-2 py-1.5 text-on-deep"
      >
        {courses.map(({ key, title }) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </select>
    </label>
  )
}

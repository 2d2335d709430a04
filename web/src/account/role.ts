import { t } from '@lingui/core/macro'
import type { Schemas } from '../api/client'
import { keep, readKept } from '../ui/storage'
import { type Account, keptFor } from './session'

export type Role = Schemas['AccountOut']['roles'][number]

/** Where each role begins, and what the switch calls it. */
export const ROLES: Partial<Record<Role, { home: string; label: string }>> = {
  tutor: { home: '/tutor', label: t`Tutor` },
  author: { home: '/author', label: t`Author` },
  office: { home: '/office', label: t`Office` },
  learner: { home: '/courses', label: t`Learner` },
  guardian: { home: '/guardian', label: t`Guardian` },
}

/** Roles of an account that have pages, in the order of the switch. */
export const rolesOf = (account: Account): Role[] =>
  (Object.keys(ROLES) as Role[]).filter((role) => account.roles.includes(role))

const place = (account: Account) => `${keptFor(account.id)}role`

/** The role an account was last seen in, or its first. */
export function lastRole(account: Account): Role | undefined {
  const roles = rolesOf(account)
  const kept = readKept(place(account)) as Role | null
  return kept && roles.includes(kept) ? kept : roles[0]
}

export const keepRole = (account: Account, role: Role) => keep(place(account), role)

import { t } from '@lingui/core/macro'
import type { AccountState, Role } from './queries'

export const ROLE_WORDS: Record<Role, string> = {
  learner: t`Learner`,
  guardian: t`Guardian`,
  tutor: t`Tutor`,
  author: t`Author`,
  office: t`Office`,
}
export const ROLE_LIST = Object.keys(ROLE_WORDS) as Role[]

export const STATE_WORDS: Record<AccountState, string> = {
  invited: t`invited, not accepted yet`,
  waits: t`waiting for a guardian’s consent`,
  open: 'open',
  closed: 'closed',
}

export const ACCOUNT_WORDS: Record<AccountState, string> = {
  invited: t`Invited, not accepted yet`,
  waits: t`Waiting for a guardian’s consent`,
  open: t`Account open`,
  closed: t`Account closed`,
}

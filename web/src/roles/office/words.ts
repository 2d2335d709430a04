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
  invited: t`invited, has not come yet`,
  waits: t`waits for a guardian’s consent`,
  open: 'open',
  closed: 'closed',
}

export const ACCOUNT_WORDS: Record<AccountState, string> = {
  invited: t`Invited, has not come yet`,
  waits: t`Waits for a guardian’s consent`,
  open: t`The account is open`,
  closed: t`The account is closed`,
}

import type { AccountState, Role } from './queries'

export const ROLE_WORDS: Record<Role, string> = {
  learner: 'Learner',
  guardian: 'Guardian',
  tutor: 'Tutor',
  author: 'Author',
  office: 'Office',
}
export const ROLE_LIST = Object.keys(ROLE_WORDS) as Role[]

export const STATE_WORDS: Record<AccountState, string> = {
  invited: 'invited, has not come yet',
  waits: 'waits for a guardian’s consent',
  open: 'open',
  closed: 'closed',
}

export const ACCOUNT_WORDS: Record<AccountState, string> = {
  invited: 'Invited, has not come yet',
  waits: 'Waits for a guardian’s consent',
  open: 'The account is open',
  closed: 'The account is closed',
}

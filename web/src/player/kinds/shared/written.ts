import { t } from '@lingui/core/macro'
export const NOT_MARKED = t`This part is kept and shown beside a good answer; no rule can mark it.`

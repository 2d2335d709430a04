import { t } from '@lingui/core/macro'

const KILO = 1_000
const MEGA = 1_000_000

/** How large a file is, in words. */
export const size = (bytes: number) =>
  bytes < MEGA
    ? t`${Math.max(1, Math.round(bytes / KILO))}\u00a0kB`
    : t`${(bytes / MEGA).toFixed(1)}\u00a0MB`

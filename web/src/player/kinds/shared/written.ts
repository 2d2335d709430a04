import { t } from '@lingui/core/macro'
export const NOT_MARKED = t`This part is not marked automatically. You’ll see a good answer beside yours.`

import { t } from '@lingui/core/macro'
import { useEffect } from 'react'

export function useTitle(title: string) {
  useEffect(() => {
    document.title = t`${title} · Vendaval`
  }, [title])
}

import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import { buttonClass } from './Button'
import { useTitle } from './useTitle'

export function Missing() {
  useTitle(t`Nothing here`)
  return (
    <main id="main" className="p-8">
      <h1 className="text-2xl">{t`This page doesn’t exist`}</h1>
      <p className="mt-2 mb-4 text-ink-2">{t`Check the address, or go back to the start.`}</p>
      <Link to="/" className={buttonClass('strong')}>{t`Go to Today`}</Link>
    </main>
  )
}

import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import { buttonClass } from '../../ui/Button'

/** On to what is older, with the same filter. */
export function Older({ older, at, query }: { older: number | null; at: string; query: object }) {
  if (older === null) return null
  const next = new URLSearchParams({ ...query, older: String(older) })
  return (
    <p className="mt-5">
      <Link to={`${at}?${next}`} className={buttonClass('plain')}>{t`Older`}</Link>
    </p>
  )
}

import { t } from '@lingui/core/macro'
import { Button } from '../../ui/Button'

/** Going on and back through a list that is paged by numbers. */
export function Pages({
  page,
  pages,
  go,
}: {
  page: number
  pages: number
  go: (page: number) => void
}) {
  if (pages < 2) return null
  return (
    <nav aria-label={t`Pages`} className="mt-5 flex items-center gap-4">
      <Button disabled={page <= 1} onClick={() => go(page - 1)}>{t`Back`}</Button>
      <span>{t`Page ${page} of ${pages}`}</span>
      <Button disabled={page >= pages} onClick={() => go(page + 1)}>{t`On`}</Button>
    </nav>
  )
}

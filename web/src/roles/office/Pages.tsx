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
    <nav aria-label="Pages" className="mt-5 flex items-center gap-4">
      <Button disabled={page <= 1} onClick={() => go(page - 1)}>
        Back
      </Button>
      <span>
        Page {page} of {pages}
      </span>
      <Button disabled={page >= pages} onClick={() => go(page + 1)}>
        On
      </Button>
    </nav>
  )
}

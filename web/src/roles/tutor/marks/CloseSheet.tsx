import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { Loaded } from '../../../ui/states'
import { counted } from '../../../ui/words'
import { STATES } from '../../marks/marks'
import { closeTerm, closingQuery, type MarkBook } from './queries'

interface Props {
  group: number
  book: MarkBook
  onClose: () => void
}

/** What closing a term means, what is in its way, and the button. */
export function CloseSheet({ group, book, onClose }: Props) {
  const query = useQuery(closingQuery(group, book.term.id))
  const cache = useQueryClient()
  const close = useMutation({
    mutationFn: () => closeTerm(group, book.term.id),
    onSuccess: (found) => {
      cache.setQueryData(keys.markBook(group, book.term.id), found)
      void cache.invalidateQueries({ queryKey: keys.terms(group) })
      onClose()
    },
  })
  return (
    <Sheet open onOpenChange={onClose} title={t`Close ${book.term.title}`}>
      <Loaded query={query} what={t`the term`}>
        {(found) => (
          <>
            <p className="mt-2">{t`The marks of ${counted(found.learners, 'learner')} are fixed and can be printed. After that you can only correct a mark, with a reason. You can’t open the term again.`}</p>
            <Lines
              title={t`Decide these first: release the marks, or excuse the learner`}
              lines={found.undecided}
            />
            <Lines title={t`Not handed in. ${found.missing_says}`} lines={found.open} />
            <div className="mt-5">
              <Button
                kind="strong"
                disabled={close.isPending || found.undecided.length > 0}
                onClick={() => close.mutate()}
              >{t`Close the term`}</Button>
              <Problem error={close.error} />
            </div>
          </>
        )}
      </Loaded>
    </Sheet>
  )
}

function Lines({ title, lines }: { title: string; lines: Schemas['StillOpenOut'][] }) {
  if (lines.length === 0) return null
  return (
    <section className="mt-4">
      <h3 className="text-lg">{title}</h3>
      <ul className="mt-1 max-h-60 overflow-y-auto">
        {lines.map((one) => (
          <li key={`${one.learner} ${one.title}`}>
            {one.learner}, {one.title}
            <span className="text-ink-2">: {STATES[one.standing]}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { day } from '../../ui/words'
import { MarkDetail } from './MarkDetail'

/** A learner's marks, term by term, for them and for those who read along. */
export function MarksOfTerms({ found }: { found: Schemas['OwnMarksOut'] }) {
  if (found.terms.length === 0)
    return (
      <p className="mt-4 text-ink-2">{t`Marks will be here once the tutor has started a term for the group.`}</p>
    )
  return (
    <div className="mt-5 grid gap-x-12 gap-y-8 @5xl:grid-cols-2">
      {found.terms.map((term) => (
        <section key={term.term.id} aria-label={term.term.title} className="min-w-0">
          <h2 className="text-xl">{term.term.title}</h2>
          <p className="text-ink-2">
            {t`${term.group}, ${day(term.term.begins)} to ${day(term.term.ends)}`}
          </p>
          <MarkDetail found={term} />
        </section>
      ))}
    </div>
  )
}

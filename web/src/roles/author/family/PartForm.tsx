import { t } from '@lingui/core/macro'
import { Button } from '../../../ui/Button'
import { Wrong } from '../../composing/Pick'
import { useFamily } from './context'
import { FieldsOf } from './FieldView'
import { type Things, textOf } from './json'
import { KINDS } from './kindFields'
import { kindOf, kindWords } from './kinds'

/** One part of a question: the fields of its kind. */
export function PartForm({
  part,
  place,
  many,
  onChange,
}: {
  part: Things
  place: number
  many: number
  onChange: (part: Things | null) => void
}) {
  const { problemAt } = useFamily()
  const kind = kindOf(part)
  const fields = KINDS[kind]
  const path = `parts.${place}`
  return (
    <section aria-labelledby={`part-${place}`} className="@container">
      <div className="flex items-baseline justify-between gap-3">
        <h2 id={`part-${place}`} className="text-xl">
          {many > 1 ? t`Answer ${place + 1}` : t`The answer`}
          <span className="ml-2 font-sans text-base font-normal text-ink-2">{kindWords(kind)}</span>
        </h2>
        {many > 1 && (
          <Button
            kind="quiet"
            onClick={() => onChange(null)}
          >{t`Remove answer ${place + 1}`}</Button>
        )}
      </div>
      <Wrong says={problemAt(path)} />
      <div className="mt-2 grid grid-cols-[minmax(0,1fr)] gap-3 @md:grid-cols-2">
        {fields ? (
          <FieldsOf
            fields={fields}
            value={part}
            onChange={(next) => onChange(next as Things)}
            path={path}
          />
        ) : (
          <p>{t`Edit ${textOf(part.kind)} in the file.`}</p>
        )}
      </div>
    </section>
  )
}

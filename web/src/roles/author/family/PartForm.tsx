import { t } from '@lingui/core/macro'
import { Button } from '../../../ui/Button'
import { Wrong } from '../../composing/Pick'
import { useFamily } from './context'
import { FieldsOf } from './FieldView'
import { put, type Things, textOf } from './json'
import { KINDS } from './kindFields'
import { kindOf, kindWords } from './kinds'
import { PlaneBoard } from './PlaneBoard'
import { RegionBoard } from './RegionBoard'

/** The list of each kind whose members lie on a figure, or on a plane. */
const ON_FIGURE: Record<string, string> = { hotspot: 'choices', graphic_gap_match: 'gaps' }
const ON_PLANE = ['select_point', 'position_object', 'graph']

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
  const onFigure = ON_FIGURE[kind]
  const members = (list: string) => (Array.isArray(part[list]) ? part[list] : []) as Things[]
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
        {onFigure && (
          <RegionBoard
            part={textOf(part.id)}
            places={members(onFigure)}
            onChange={(next) => onChange(put(part, onFigure, next))}
          />
        )}
        {ON_PLANE.includes(kind) && (
          <PlaneBoard
            part={textOf(part.id)}
            targets={members('targets')}
            onChange={(next) => onChange(put(part, 'targets', next))}
          />
        )}
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

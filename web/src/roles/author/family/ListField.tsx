import type { Json } from '../../../account/merging'
import { Button } from '../../../ui/Button'
import { MoveButtons } from '../../../ui/MoveButtons'
import { Wrong } from '../../composing/Pick'
import { moved } from '../course/shape'
import { useFamily } from './context'
import type { As, FieldProps, View as ViewType } from './kinds'

/** Several of a kind, each to be moved or taken out, and one more. */
export function ListField({
  field,
  value,
  onChange,
  path,
  View,
}: FieldProps<As & { as: 'list' }> & { View: ViewType }) {
  const { problemAt } = useFamily()
  const all = Array.isArray(value) ? value : []
  const set = (next: Json[]) => onChange(next.length === 0 ? undefined : next)
  return (
    <fieldset className="grid min-w-0 gap-2 @md:col-span-2">
      <legend className="mb-1 font-semibold">{field.label}</legend>
      <Wrong says={problemAt(path)} />
      {all.map((one, place) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: they have no identity but their place
          key={place}
          className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-2 border-b border-line pb-2"
        >
          <View
            field={{ ...field.of, name: String(place), label: labelOf(field, place) } as never}
            quiet
            value={one}
            onChange={(next) => set(all.map((old, i) => (i === place ? (next ?? '') : old)))}
            path={`${path}.${place}`}
          />
          <MoveButtons
            name={labelOf(field, place)}
            place={place}
            many={all.length}
            onMove={(to) => set(moved(all, place, to))}
            onRemove={() => set(all.filter((_, i) => i !== place))}
          />
        </div>
      ))}
      <p>
        <Button kind="quiet" className="-ml-2" onClick={() => set([...all, field.fresh])}>
          {field.add}
        </Button>
      </p>
    </fieldset>
  )
}

const labelOf = ({ label }: { label: string }, place: number) => `${label}, ${place + 1}`

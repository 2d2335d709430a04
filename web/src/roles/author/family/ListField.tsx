import { t } from '@lingui/core/macro'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import type { Json } from '../../../account/merging'
import { Button } from '../../../ui/Button'
import { IconButton } from '../../../ui/IconButton'
import { Wrong } from '../../composing/Pick'
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
  const move = (from: number, to: number) => {
    const next = [...all]
    next.splice(to, 0, ...next.splice(from, 1))
    set(next)
  }
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
          <span className="flex">
            <IconButton
              icon={ArrowUp}
              label={t`Move ${labelOf(field, place)} up`}
              off={place === 0}
              act={() => move(place, place - 1)}
            />
            <IconButton
              icon={ArrowDown}
              label={t`Move ${labelOf(field, place)} down`}
              off={place === all.length - 1}
              act={() => move(place, place + 1)}
            />
            <IconButton
              icon={Trash2}
              label={t`Remove ${labelOf(field, place)}`}
              act={() => set(all.filter((_, i) => i !== place))}
            />
          </span>
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

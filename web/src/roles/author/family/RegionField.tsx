import { t } from '@lingui/core/macro'
import type { Json } from '../../../account/merging'
import { fieldClass, Input, Labelled } from '../../../ui/Field'
import { Wrong } from '../../composing/Pick'
import { useFamily } from './context'
import { type Things, textOf, typedNumber } from './json'
import type { FieldProps } from './kinds'

const SHAPES = {
  circle: [t`Across`, t`Down`, t`Radius`],
  rect: [t`Across`, t`Down`, t`Width`, t`Height`],
} as const
type Shape = keyof typeof SHAPES

/** Where something lies on a figure: a circle or a rectangle, in units of the drawing. */
export function RegionField({ value, onChange, path, field }: FieldProps) {
  const { problemAt } = useFamily()
  const all = (value ?? {}) as Things
  const shape: Shape = all.rect !== undefined && all.rect !== null ? 'rect' : 'circle'
  const numbers = (all[shape] ?? []) as Json[]
  return (
    <fieldset className="grid min-w-0 gap-2 @md:col-span-2">
      <legend className="mb-1 text-sm text-ink-2">{field.label}</legend>
      <div className="flex flex-wrap gap-2">
        <Labelled label={t`Shape`}>
          <select
            className={fieldClass}
            value={shape}
            onChange={({ target }) => onChange(changed(numbers, target.value as Shape))}
          >
            <option value="circle">{t`Circle`}</option>
            <option value="rect">{t`Rectangle`}</option>
          </select>
        </Labelled>
        {SHAPES[shape].map((label, place) => (
          <Labelled key={label} label={label}>
            <Input
              className="w-20"
              value={textOf(numbers[place])}
              onChange={({ target }) =>
                onChange({
                  [shape]: SHAPES[shape].map((_, i) =>
                    i === place ? (typedNumber(target.value) ?? 0) : (numbers[i] ?? 0),
                  ),
                })
              }
            />
          </Labelled>
        ))}
      </div>
      <Wrong says={problemAt(path, true)} />
    </fieldset>
  )
}

const changed = (numbers: Json[], shape: Shape): Things => {
  const [x = 80, y = 80, size = 20] = numbers
  return { [shape]: shape === 'rect' ? [x, y, size, size] : [x, y, size] }
}

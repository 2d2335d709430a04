import { t } from '@lingui/core/macro'
import { Slider } from 'radix-ui'
import { short } from '../../values'
import { marksOf, roundMark, withMinus } from '../shared/marks'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

const HANDLE = 28

/** QTI slider interaction: a handle on a number line, with the number it stands at beside it. */
export function Answer({ review, part, state, value, onChange }: PartProps<'slider'>) {
  const { low, high, step } = part
  const closed = state.state !== 'open'
  const middle = low + Math.round((high - low) / step / 2) * step
  const now = value === '' || Number.isNaN(Number(value)) ? middle : Number(value)
  // The handle stays within the line, so the line's numbers keep half a handle from its ends.
  const place = (n: number) => {
    const share = (n - low) / (high - low)
    return { left: `calc(${HANDLE / 2}px + ${share} * (100% - ${HANDLE}px))` }
  }
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      review={review}
      note={value === '' && !closed ? t`Not set yet` : null}
    >
      <div className="flex max-w-[40rem] flex-wrap items-start gap-x-5">
        <div className="min-w-60 flex-1">
          <Slider.Root
            className="relative flex h-11 touch-none items-center"
            min={low}
            max={high}
            step={step}
            value={[now]}
            disabled={closed}
            onValueChange={([next = middle]) => onChange(short(next))}
          >
            <Slider.Track className="relative h-2 w-full rounded-full bg-line">
              <Slider.Range className="absolute h-full rounded-full bg-gust-mid" />
            </Slider.Track>
            {state.right_points.map(({ x }) => (
              <span
                key={x}
                data-right-place={x}
                style={place(x)}
                className="absolute size-9 -translate-x-1/2 rounded-full border-[3px] border-correct border-dashed"
              />
            ))}
            <Slider.Thumb
              aria-label={`${part.label || t`Your answer`}${part.unit ? t` in ${part.unit}` : ''}`}
              className="block size-7 rounded-full border-2 border-gust bg-sheet"
            />
          </Slider.Root>
          <div aria-hidden="true" className="relative h-8 text-sm text-ink-2 tabular-nums">
            {marksOf(low, high, roundMark(low, high)).map((mark) => (
              <span
                key={mark}
                style={place(mark)}
                className="absolute grid -translate-x-1/2 justify-items-center"
              >
                <span className="h-2 w-0.5 bg-edge" />
                {withMinus(short(mark))}
              </span>
            ))}
          </div>
        </div>
        <output className="min-w-20 pt-1.5 font-heading text-2xl font-semibold tabular-nums">
          {value === '' ? '?' : withMinus(short(now))} {part.unit}
        </output>
      </div>
    </PartGroup>
  )
}

import { Slider } from 'radix-ui'
import { PartGroup } from './Field'
import type { PartProps } from './types'

/** QTI slider interaction: a handle on a scale, or the number beside it. */
export function SliderPart({ part, state, value, onChange }: PartProps<'slider'>) {
  const closed = state.state !== 'open'
  const middle = part.low + Math.round((part.high - part.low) / part.step / 2) * part.step
  const now = value === '' || Number.isNaN(Number(value)) ? middle : Number(value)
  const short = (n: number) => String(Math.round(n * 1e6) / 1e6)
  return (
    <PartGroup
      label={part.label}
      state={state}
      note={value === '' && !closed ? 'Not set yet' : null}
    >
      <div className="flex max-w-[40rem] flex-wrap items-center gap-5">
        <Slider.Root
          className="relative flex h-11 min-w-60 flex-1 touch-none items-center"
          min={part.low}
          max={part.high}
          step={part.step}
          value={[now]}
          disabled={closed}
          onValueChange={([next = middle]) => onChange(short(next))}
        >
          <Slider.Track className="relative h-2 w-full rounded-full bg-line">
            <Slider.Range className="absolute h-full rounded-full bg-gust-mid" />
          </Slider.Track>
          <Slider.Thumb
            aria-label={`${part.label || 'Your answer'}${part.unit ? ` in ${part.unit}` : ''}`}
            className="block size-7 rounded-full border-2 border-gust bg-sheet"
          />
        </Slider.Root>
        <output className="min-w-20 font-heading text-2xl font-semibold tabular-nums">
          {value === '' ? '?' : short(now)} {part.unit}
        </output>
      </div>
      <div className="flex max-w-[40rem] justify-between pr-26 text-sm text-ink-2 tabular-nums">
        <span>{part.low}</span>
        <span>{part.high}</span>
      </div>
    </PartGroup>
  )
}

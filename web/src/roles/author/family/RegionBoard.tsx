import { t } from '@lingui/core/macro'
import { type PointerEvent, useRef, useState } from 'react'
import type { Json } from '../../../account/merging'
import { Figure } from '../../../player/Figure'
import { RegionShape } from '../../../player/kinds/shared/FigureWith'
import { viewBoxOf } from '../../../player/zoom'
import { useFamily } from './context'
import { type Things, textOf } from './json'
import { type At, cornerOf, drawn, grown, moved, type Region, regionOf, written } from './regions'

const STEPS: Record<string, At> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
}
const FAST = 10
const NEAR_EDGE = 6

interface Props {
  part: string
  places: Things[]
  onChange: (places: Json[]) => void
}

type Held = { place: number; from: At } & ({ as: 'moved'; region: Region } | { as: 'drawn' })

/** The places of a part on its figure: drawn, moved and made larger by pointer or by keys. */
export function RegionBoard({ part, places, onChange }: Props) {
  const { seenPart } = useFamily()
  const seen = seenPart(part)
  const figure = seen && 'figure' in seen ? seen.figure : null
  const svg = useRef<SVGSVGElement>(null)
  const [chosen, setChosen] = useState(0)
  const [held, setHeld] = useState<Held | null>(null)
  if (!figure)
    return (
      <p className="text-ink-2 @md:col-span-2">{t`Once the question can be shown, you can draw its places on the figure.`}</p>
    )
  const regions = places.map(({ at }) => regionOf(at))
  const set = (place: number, region: Region) =>
    onChange(
      places.map((one, i) => (i === place ? { ...one, at: written(region) } : one)) as Json[],
    )
  const at = (event: PointerEvent): At => {
    const turned = svg.current?.getScreenCTM()?.inverse()
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(turned)
    return { x, y }
  }
  const press = (event: PointerEvent) => {
    const from = at(event)
    const under = (event.target as Element).closest('[data-place]')?.getAttribute('data-place')
    const place = under === null || under === undefined ? chosen : Number(under)
    const region = regions[place]
    svg.current?.setPointerCapture(event.pointerId)
    setChosen(place)
    if (under && region) setHeld({ place, from, as: 'moved', region })
    else if (places[place]) setHeld({ place, from, as: 'drawn' })
  }
  const drag = (event: PointerEvent) => {
    if (!held) return
    const to = at(event)
    if (held.as === 'moved')
      set(held.place, moved(held.region, { x: to.x - held.from.x, y: to.y - held.from.y }))
    else if (Math.hypot(to.x - held.from.x, to.y - held.from.y) > NEAR_EDGE)
      set(held.place, drawn(regions[held.place]?.shape ?? 'circle', held.from, to))
  }
  const onKey = (place: number, region: Region) => (event: React.KeyboardEvent) => {
    const step = STEPS[event.key]
    const by = event.key === '+' ? 1 : event.key === '-' ? -1 : 0
    if (!step && by === 0) return
    event.preventDefault()
    const times = event.shiftKey && step ? FAST : 1
    set(
      place,
      step ? moved(region, { x: step.x * times, y: step.y * times }) : grown(region, by * 2),
    )
  }
  return (
    <div className="@md:col-span-2">
      <p className="text-sm text-ink-2">
        {t`Drag a place to move it. Select one and draw elsewhere to give it a new shape. By keyboard: arrow keys, + and −.`}
      </p>
      <div className="relative mt-1 max-w-[34rem] rounded-box bg-sheet">
        <Figure figure={figure} />
        <svg
          ref={svg}
          className="absolute inset-0 size-full touch-none select-none"
          viewBox={viewBoxOf(figure.svg)}
          role="application"
          aria-label={t`Places on the figure`}
          onPointerDown={press}
          onPointerMove={drag}
          onPointerUp={() => setHeld(null)}
        >
          {regions.map((region, place) =>
            region ? (
              <g
                // biome-ignore lint/suspicious/noArrayIndexKey: they have no identity but their place
                key={place}
                data-place={place}
                tabIndex={0}
                role="slider"
                aria-label={nameOf(places[place], place)}
                aria-valuenow={region.numbers[0]}
                aria-valuetext={sayWhere(region)}
                className="cursor-move"
                onFocus={() => setChosen(place)}
                onKeyDown={onKey(place, region)}
              >
                <RegionShape
                  region={{ shape: region.shape, numbers: [...region.numbers] }}
                  chosen={place === chosen}
                />
                <PlaceNumber at={cornerOf(region)} number={place + 1} />
              </g>
            ) : null,
          )}
        </svg>
      </div>
      {regions.some((region, place) => !region && places[place]?.at !== undefined) && (
        <p className="mt-1 text-sm text-ink-2">{t`A place given by a formula is moved in its fields.`}</p>
      )}
    </div>
  )
}

const PlaceNumber = ({ at, number }: { at: At; number: number }) => (
  <text
    {...at}
    fontSize="14"
    fill="var(--v-ink)"
    stroke="var(--v-sheet)"
    strokeWidth="3"
    paintOrder="stroke"
  >
    {number}
  </text>
)

const nameOf = (place: Things | undefined, i: number) =>
  t`Place ${i + 1}: ${textOf(place?.name) || textOf(place?.token) || textOf(place?.text)}`

function sayWhere({ shape, numbers }: Region): string {
  const [x, y, ...sizes] = numbers.map((one) => Math.round(one))
  return shape === 'circle'
    ? t`${x ?? 0} across, ${y ?? 0} down, radius ${sizes[0] ?? 0}`
    : t`${x ?? 0} across, ${y ?? 0} down, ${sizes[0] ?? 0} by ${sizes[1] ?? 0}`
}

import type { ReactNode } from 'react'
import type { Schemas } from '../../../api/client'
import { Figure } from '../../Figure'

const viewBoxOf = (svg: string): string => /viewBox="([^"]+)"/.exec(svg)?.[1] ?? '0 0 100 100'

/** A figure with something drawn over it in its own units. */
export function FigureWith({
  figure,
  children,
}: {
  figure: Schemas['FigureOut']
  children: ReactNode
}) {
  return (
    <div data-over className="relative max-w-[34rem] rounded-box bg-sheet">
      <Figure figure={figure} />
      <svg
        className="absolute inset-0 size-full"
        viewBox={viewBoxOf(figure.svg)}
        aria-hidden="true"
      >
        {children}
      </svg>
    </div>
  )
}

/** A place on a figure. */
export function RegionShape({ region, chosen }: { region: Schemas['RegionOut']; chosen: boolean }) {
  const look = {
    fill: chosen ? 'var(--v-gust)' : 'var(--v-gust-mid)',
    fillOpacity: chosen ? 0.45 : 0.18,
    stroke: 'var(--v-gust)',
    strokeWidth: chosen ? 3 : 1.5,
    vectorEffect: 'non-scaling-stroke' as const,
  }
  const [a = 0, b = 0, c = 0, d = 0] = region.numbers
  if (region.shape === 'circle') return <circle cx={a} cy={b} r={c} {...look} />
  return <rect x={a} y={b} width={c} height={d} rx={2} {...look} />
}

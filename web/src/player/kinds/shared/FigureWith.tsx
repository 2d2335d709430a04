import type { ReactNode } from 'react'
import type { Schemas } from '../../../api/client'
import { Enlarge, Figure } from '../../Figure'
import { viewBoxOf } from '../../zoom'

interface Props {
  figure: Schemas['FigureOut']
  children: ReactNode
}

/** A figure with something drawn over it in its own units, and a way to look at both closely. */
export const FigureWith = (props: Props) => (
  <div className="max-w-[34rem]">
    <PrintedFigureWith {...props} />
    <p className="-mb-2 text-right">
      <Enlarge svg={props.figure.svg} alt={props.figure.alt} over={props.children} />
    </p>
  </div>
)

/** The same on paper. */
export const PrintedFigureWith = ({ figure, children }: Props) => (
  <div data-over className="relative max-w-[34rem] rounded-box bg-sheet">
    <Figure figure={figure} />
    <svg className="absolute inset-0 size-full" viewBox={viewBoxOf(figure.svg)} aria-hidden="true">
      {children}
    </svg>
  </div>
)

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

import { t } from '@lingui/core/macro'
import { linesOf } from '../../values'
import { WholeReview } from '../shared/reviews'
import type { KindView, PrintedProps } from '../view'
import { Answer } from './Answer'

function Printed({ part, value }: PrintedProps<'grid_shading'>) {
  const shaded = new Set(linesOf(value))
  const cells = Array.from(
    { length: part.rows * part.columns },
    (_, i) => `${Math.floor(i / part.columns)} ${i % part.columns}`,
  )
  return (
    <svg
      role="img"
      aria-label={t`${shaded.size} of ${cells.length} cells shaded`}
      viewBox={`-1 -1 ${part.columns * 20 + 2} ${part.rows * 20 + 2}`}
      style={{ width: part.columns * 24 }}
      className="max-w-full"
    >
      {cells.map((cell) => {
        const [row = 0, column = 0] = cell.split(' ').map(Number)
        return (
          <rect
            key={cell}
            x={column * 20}
            y={row * 20}
            width="20"
            height="20"
            fill={shaded.has(cell) ? 'var(--v-ink)' : 'none'}
            stroke="var(--v-ink)"
          />
        )
      })}
    </svg>
  )
}

export const gridShading: KindView<'grid_shading'> = {
  Answer,
  Review: ({ state }) => <WholeReview state={state} />,
  Printed,
}

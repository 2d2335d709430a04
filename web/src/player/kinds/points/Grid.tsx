import type { Schemas } from '../../../api/client'
import type { Point } from '../../values'
import { marksOf, withMinus } from '../shared/marks'
import { axisText } from './curves'

type Axes = Pick<Schemas['PointsPartOut'], 'x' | 'y'>

export interface Scale {
  width: number
  height: number
  x: (value: number) => number
  y: (value: number) => number
  /** From shares of the width and height to a point. */
  back: (right: number, down: number) => Point
}

const MARGIN = 34

/** From the axes' units to a drawing 480 wide, y upwards. */
export function useScale({ x, y }: Axes): Scale {
  const width = 480
  const across = width - 2 * MARGIN
  const ratio = (y.high - y.low) / (x.high - x.low)
  const up = across * (x.clock ? 0.62 : Math.min(1.2, Math.max(0.35, ratio)))
  const height = up + 2 * MARGIN
  return {
    width,
    height,
    x: (value) => MARGIN + ((value - x.low) / (x.high - x.low)) * across,
    y: (value) => MARGIN + ((y.high - value) / (y.high - y.low)) * up,
    back: (right, down) => ({
      x: x.low + ((right * width - MARGIN) / across) * (x.high - x.low),
      y: y.high - ((down * height - MARGIN) / up) * (y.high - y.low),
    }),
  }
}

/** The lines to count from stand out: 0, or else the lowest. */
const lineLook = (mark: number, low: number) =>
  mark === Math.max(0, low)
    ? { stroke: 'var(--v-ink-2)', strokeWidth: 1.5 }
    : { stroke: 'var(--v-edge)', strokeOpacity: 0.55 }

/** A straight arrow from one place of the drawing to another. */
export function Arrow({ from, to, scale }: { from: Point; to: Point; scale: Scale }) {
  const [x1, y1, x2, y2] = [scale.x(from.x), scale.y(from.y), scale.x(to.x), scale.y(to.y)]
  const turn = (Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI
  const middle = `translate(${(x1 + x2) / 2} ${(y1 + y2) / 2}) rotate(${turn})`
  return (
    <g stroke="var(--v-gust)" strokeWidth="3" fill="none">
      <line x1={x1} y1={y1} x2={x2} y2={y2} />
      <path d="M-6 -7 L6 0 L-6 7" transform={middle} />
    </g>
  )
}

/** Lines and numbers of a grid. */
export function Grid({ part, scale }: { part: Axes; scale: Scale }) {
  return (
    <g fontSize="14.5" fill="var(--v-ink-2)">
      {marksOf(part.x.low, part.x.high, part.x.mark).map((mark) => (
        <g key={`x${mark}`}>
          <line
            x1={scale.x(mark)}
            x2={scale.x(mark)}
            y1={scale.y(part.y.low)}
            y2={scale.y(part.y.high)}
            {...lineLook(mark, part.x.low)}
          />
          <text x={scale.x(mark)} y={scale.y(part.y.low) + 18} textAnchor="middle">
            {withMinus(axisText(part.x, mark))}
          </text>
        </g>
      ))}
      {marksOf(part.y.low, part.y.high, part.y.mark).map((mark) => (
        <g key={`y${mark}`}>
          <line
            x1={scale.x(part.x.low)}
            x2={scale.x(part.x.high)}
            y1={scale.y(mark)}
            y2={scale.y(mark)}
            {...lineLook(mark, part.y.low)}
          />
          <text x={scale.x(part.x.low) - 7} y={scale.y(mark) + 4} textAnchor="end">
            {withMinus(axisText(part.y, mark))}
          </text>
        </g>
      ))}
      <text x={scale.x(part.x.high)} y={scale.height - 4} textAnchor="end">
        {part.x.name}
      </text>
      <text x="4" y="14">
        {part.y.name}
      </text>
    </g>
  )
}

import { strokePath } from './strokes'

/** The strokes of a sketch. */
export function Strokes({ strokes }: { strokes: string[] }) {
  return strokes.map((stroke) => (
    <path
      key={stroke}
      d={strokePath(stroke)}
      fill="none"
      stroke="var(--v-ink)"
      strokeWidth="2.5"
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  ))
}

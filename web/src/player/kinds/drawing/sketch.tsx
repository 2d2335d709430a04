import { linesOf } from '../../values'

export const WIDTH = 480
export const HEIGHT = 300
export const WORDS = 'words '

/** The strokes of a sketch, and its description. */
export function sketchOf(value: string): { strokes: string[]; words: string } {
  const lines = linesOf(value)
  const said = lines.find((line) => line.startsWith(WORDS)) ?? WORDS
  return {
    strokes: lines.filter((line) => !line.startsWith(WORDS)),
    words: said.slice(WORDS.length),
  }
}

export function Strokes({ strokes }: { strokes: string[] }) {
  return strokes.map((points) => (
    <polyline
      key={points}
      points={points}
      fill="none"
      stroke="var(--v-ink)"
      strokeWidth="2.5"
      strokeLinecap="round"
    />
  ))
}

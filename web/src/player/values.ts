/** A response of several values is text with one value a line, as QTI 3 writes them. */
export const linesOf = (value: string): string[] =>
  value.split('\n').filter((line) => line.trim() !== '')

/** Pairs `slot token` as a map. */
export function pairsOf(value: string): Map<string, string> {
  return new Map(
    linesOf(value).map((line) => {
      const [first = '', ...rest] = line.split(' ')
      return [first, rest.join(' ')]
    }),
  )
}

export const fromPairs = (pairs: Map<string, string>): string =>
  [...pairs].map(([first, second]) => `${first} ${second}`).join('\n')

export interface Point {
  x: number
  y: number
}

export const pointsOf = (value: string): Point[] =>
  linesOf(value).map((line) => {
    const [x = 0, y = 0] = line.split(' ').map(Number)
    return { x, y }
  })

/** A number as it is sent: without binary noise. */
export const short = (n: number) => String(Math.round(n * 1e6) / 1e6)

export const fromPoints = (points: Point[]): string =>
  points.map(({ x, y }) => `${short(x)} ${short(y)}`).join('\n')

/** Words of a piece of HTML, without its marks. */
export const plain = (html: string) => html.replace(/<[^>]+>/g, '')

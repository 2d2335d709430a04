/** How a drawing is looked at: enlarged so many times, and moved so far, in pixels. */
export interface View {
  scale: number
  x: number
  y: number
}

export interface Size {
  width: number
  height: number
}

export const WHOLE: View = { scale: 1, x: 0, y: 0 }
export const MOST = 8

const within = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value))

/** A view that never loses the drawing out of sight: it is moved no further than to its edges. */
export function bounded({ scale, x, y }: View, room: Size): View {
  const kept = within(scale, 1, MOST)
  const far = { x: ((kept - 1) * room.width) / 2, y: ((kept - 1) * room.height) / 2 }
  return { scale: kept, x: within(x, -far.x, far.x), y: within(y, -far.y, far.y) }
}

/** Enlarged by a factor, with what is at a place staying there. at: from the middle. */
export function zoomed(view: View, factor: number, at: { x: number; y: number }, room: Size): View {
  const scale = within(view.scale * factor, 1, MOST)
  const by = scale / view.scale
  return bounded({ scale, x: at.x - (at.x - view.x) * by, y: at.y - (at.y - view.y) * by }, room)
}

/** Moved, as by a hand. */
export const moved = (view: View, dx: number, dy: number, room: Size): View =>
  bounded({ ...view, x: view.x + dx, y: view.y + dy }, room)

/** The units of a drawing. */
export const viewBoxOf = (svg: string): string =>
  /viewBox="([^"]+)"/.exec(svg)?.[1] ?? '0 0 100 100'

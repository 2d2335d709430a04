import type { Announcements } from '@dnd-kit/core'

/** What a screen reader says while something is dragged. `name` gives an item's words. */
export const spokenDrag = (name: (id: string) => string): Announcements => ({
  onDragStart: ({ active }) => `${name(String(active.id))}: taken`,
  onDragOver: () => undefined,
  onDragEnd: ({ active, over }) => `${name(String(active.id))}: ${over ? 'put down' : 'let go'}`,
  onDragCancel: ({ active }) => `${name(String(active.id))}: let go`,
})

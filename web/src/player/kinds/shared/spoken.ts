import type { Announcements } from '@dnd-kit/core'
import { t } from '@lingui/core/macro'

/** What a screen reader says while something is dragged. `name` gives an item's words. */
export const spokenDrag = (name: (id: string) => string): Announcements => ({
  onDragStart: ({ active }) => t`${name(String(active.id))}: picked up`,
  onDragOver: () => undefined,
  onDragEnd: ({ active, over }) => `${name(String(active.id))}: ${over ? t`put down` : t`let go`}`,
  onDragCancel: ({ active }) => t`${name(String(active.id))}: let go`,
})

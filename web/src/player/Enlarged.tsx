import { t } from '@lingui/core/macro'
import { Maximize, X, ZoomIn, ZoomOut } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef, useState } from 'react'
import { IconButton } from '../ui/IconButton'
import { moved, type View, viewBoxOf, WHOLE, zoomed } from './zoom'

const STEP = 1.4
const ARROW = 60
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [ARROW, 0],
  ArrowRight: [-ARROW, 0],
  ArrowUp: [0, ARROW],
  ArrowDown: [0, -ARROW],
}
const FACTORS: Record<string, number> = { '+': STEP, '=': STEP, '-': 1 / STEP }
const MIDDLE = { x: 0, y: 0 }

/** A drawing over the whole window: enlarged and moved by mouse, fingers and keys. */
export default function Enlarged({
  svg,
  alt,
  over,
  onClose,
}: {
  svg: string
  alt: string
  /** What is drawn over it, in its own units; it is only looked at here. */
  over?: ReactNode
  onClose: () => void
}) {
  const area = useRef<HTMLDivElement | null>(null)
  const [before] = useState(() => document.activeElement)
  const [view, setView] = useState<View>(WHOLE)
  const hands = useRef(new Map<number, { x: number; y: number }>())
  const room = () => {
    const { clientWidth: width = 1, clientHeight: height = 1 } = area.current ?? {}
    return { width, height }
  }
  const fromMiddle = (x: number, y: number) => {
    const box = area.current?.getBoundingClientRect()
    return box ? { x: x - box.left - box.width / 2, y: y - box.top - box.height / 2 } : MIDDLE
  }
  const zoom = (factor: number, at = MIDDLE) => setView((now) => zoomed(now, factor, at, room()))
  const move = (dx: number, dy: number) => setView((now) => moved(now, dx, dy, room()))

  /** The place of the drawing, where a wheel must not scroll the page. */
  const [place] = useState(() => (node: HTMLDivElement | null) => {
    area.current = node
    const onWheel = (event: WheelEvent) => {
      event.preventDefault()
      zoom(event.deltaY < 0 ? STEP : 1 / STEP, fromMiddle(event.clientX, event.clientY))
    }
    node?.addEventListener('wheel', onWheel, { passive: false })
    return () => node?.removeEventListener('wheel', onWheel)
  })

  const onPointerMove = (event: PointerEvent) => {
    const before = hands.current.get(event.pointerId)
    if (!before) return
    const now = { x: event.clientX, y: event.clientY }
    const other = [...hands.current].find(([id]) => id !== event.pointerId)?.[1]
    if (other) {
      const far = (one: typeof now) => Math.hypot(one.x - other.x, one.y - other.y)
      const between = fromMiddle((now.x + other.x) / 2, (now.y + other.y) / 2)
      zoom(far(now) / Math.max(1, far(before)), between)
    } else move(now.x - before.x, now.y - before.y)
    hands.current.set(event.pointerId, now)
  }
  const letGo = (event: PointerEvent) => void hands.current.delete(event.pointerId)
  const onKeyDown = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key]
    const factor = FACTORS[event.key]
    if (arrow) move(...arrow)
    else if (factor) zoom(factor)
    else if (event.key === '0') setView(WHOLE)
    else return
    event.preventDefault()
  }
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onKeyDown={onKeyDown}
          onCloseAutoFocus={(event) => {
            event.preventDefault()
            if (before instanceof HTMLElement) before.focus()
          }}
          onOpenAutoFocus={(event) => {
            event.preventDefault()
            area.current?.focus()
          }}
          className="fixed inset-0 z-20 grid grid-rows-[auto_1fr] bg-sheet"
        >
          <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
            <Dialog.Title className="mr-auto text-base">{t`Figure, enlarged`}</Dialog.Title>
            <span aria-live="polite" className="text-ink-2 tabular-nums">
              {Math.round(view.scale * 100)}%
            </span>
            <IconButton icon={ZoomOut} label={t`Smaller (−)`} act={() => zoom(1 / STEP)} />
            <IconButton icon={ZoomIn} label={t`Larger (+)`} act={() => zoom(STEP)} />
            <IconButton icon={Maximize} label={t`All of it (0)`} act={() => setView(WHOLE)} />
            <IconButton icon={X} label={t`Close`} act={onClose} />
          </div>
          <div
            ref={place}
            role="application"
            aria-label={t`${alt} Plus and minus change the size, arrow keys move it.`}
            // biome-ignore lint/a11y/noNoninteractiveTabindex: keys move it
            tabIndex={0}
            className="cursor-grab touch-none overflow-hidden active:cursor-grabbing"
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId)
              hands.current.set(event.pointerId, { x: event.clientX, y: event.clientY })
            }}
            onPointerMove={onPointerMove}
            onPointerUp={letGo}
            onPointerCancel={letGo}
          >
            <div
              className="relative size-full"
              style={{ transform: `translate(${view.x}px, ${view.y}px) scale(${view.scale})` }}
            >
              <div
                className="figure enlarged size-full"
                dangerouslySetInnerHTML={{ __html: svg }}
              />
              {over && (
                <svg
                  className="pointer-events-none absolute inset-0 size-full"
                  viewBox={viewBoxOf(svg)}
                  aria-hidden="true"
                >
                  {over}
                </svg>
              )}
            </div>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

import { t } from '@lingui/core/macro'
import { type PointerEvent, useRef, useState } from 'react'
import { Button } from '../../../ui/Button'
import { PartGroup } from '../shared/PartGroup'
import { NOT_MARKED } from '../shared/written'
import type { PartProps } from '../view'
import { HEIGHT, Strokes, sketchOf, WIDTH, WORDS } from './sketch'

/** A sketch with the pointer, or a description of it. Kept and not marked. */
export function Answer({ review, part, state, value, onChange }: PartProps<'drawing'>) {
  const closed = state.state !== 'open'
  const svg = useRef<SVGSVGElement>(null)
  const [stroke, setStroke] = useState<string | null>(null)
  const { strokes, words } = sketchOf(value)
  const keep = (next: string[], said: string) =>
    onChange([...next, ...(said.trim() ? [WORDS + said] : [])].join('\n'))
  const at = (event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect()
    if (!box) return ''
    const x = ((event.clientX - box.left) / box.width) * WIDTH
    const y = ((event.clientY - box.top) / box.height) * HEIGHT
    return `${x.toFixed(0)},${y.toFixed(0)}`
  }
  return (
    <PartGroup label={part.label || t`Sketch`} closed={closed} review={review} note={NOT_MARKED}>
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={t`Sketch of ${strokes.length} strokes`}
        className="block w-full max-w-[32rem] touch-none rounded-box border-2 border-edge bg-sheet"
        onPointerDown={(event) => {
          if (closed) return
          svg.current?.setPointerCapture(event.pointerId)
          setStroke(at(event))
        }}
        onPointerMove={(event) => stroke !== null && setStroke(`${stroke} ${at(event)}`)}
        onPointerUp={() => {
          if (stroke) keep([...strokes, stroke], words)
          setStroke(null)
        }}
      >
        <Strokes strokes={[...strokes, ...(stroke ? [stroke] : [])]} />
      </svg>
      {!closed && (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <Button
            onClick={() => keep(strokes.slice(0, -1), words)}
            disabled={strokes.length === 0}
          >{t`Undo stroke`}</Button>
          <label className="flex min-w-60 flex-1 items-center gap-2 text-sm text-ink-2">
            {t`Or describe it`}
            <input
              className="min-w-0 flex-1 rounded-lg border-2 border-edge bg-sheet px-3 py-2 text-base text-ink"
              maxLength={300}
              value={words}
              onChange={(event) => keep(strokes, event.target.value)}
            />
          </label>
        </div>
      )}
    </PartGroup>
  )
}

import { t } from '@lingui/core/macro'
import { useRef, useState } from 'react'
import { Button } from '../ui/Button'
import { Labelled, TextArea } from '../ui/Field'
import { Strokes } from './Strokes'
import { SHEET, type Working } from './strokes'

const MOST_POINTS = 300
const MOST_STROKES = 200

interface Props {
  working: Working
  onChange: (working: Working) => void
}

/** Typed lines with formulas, and a sheet to sketch on; both are kept with the answer. */
export function WorkingArea({ working, onChange }: Props) {
  return (
    <section aria-label={t`Working area`} className="mt-6 grid max-w-[45rem] gap-3">
      <Labelled label={t`Your working. Put formulas between dollar signs: $v = s/t$`}>
        <TextArea
          rows={3}
          maxLength={4000}
          value={working.lines}
          onChange={(event) => onChange({ ...working, lines: event.target.value })}
        />
      </Labelled>
      <SketchSheet
        strokes={working.strokes}
        onChange={(strokes) => onChange({ ...working, strokes })}
      />
    </section>
  )
}

function SketchSheet({
  strokes,
  onChange,
}: {
  strokes: string[]
  onChange: (strokes: string[]) => void
}) {
  const sheet = useRef<SVGSVGElement>(null)
  const [drawing, setDrawing] = useState<string[] | null>(null)
  const at = (event: React.PointerEvent) => {
    const box = sheet.current?.getBoundingClientRect()
    if (!box) return '0,0'
    const x = ((event.clientX - box.left) / box.width) * SHEET.width
    const y = ((event.clientY - box.top) / box.height) * SHEET.height
    return `${Math.max(0, Math.round(x))},${Math.max(0, Math.round(y))}`
  }
  const finish = () => {
    if (drawing && drawing.length > 1 && strokes.length < MOST_STROKES)
      onChange([...strokes, drawing.join(' ')])
    setDrawing(null)
  }
  return (
    <div>
      <svg
        ref={sheet}
        viewBox={`0 0 ${SHEET.width} ${SHEET.height}`}
        role="img"
        aria-label={t`Drawing area, ${strokes.length} strokes. You can write above instead.`}
        className="w-full cursor-crosshair touch-none rounded-lg border border-edge bg-sheet"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          setDrawing([at(event)])
        }}
        onPointerMove={(event) => {
          if (drawing && drawing.length < MOST_POINTS) setDrawing([...drawing, at(event)])
        }}
        onPointerUp={finish}
        onPointerCancel={() => setDrawing(null)}
      >
        <Strokes strokes={[...strokes, ...(drawing ? [drawing.join(' ')] : [])]} />
      </svg>
      <div className="mt-1 flex gap-2">
        <Button
          kind="quiet"
          disabled={strokes.length === 0}
          onClick={() => onChange(strokes.slice(0, -1))}
        >{t`Undo stroke`}</Button>
        <Button
          kind="quiet"
          disabled={strokes.length === 0}
          onClick={() => onChange([])}
        >{t`Clear drawing`}</Button>
      </div>
    </div>
  )
}

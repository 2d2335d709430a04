import { t } from '@lingui/core/macro'
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import { type Kind, type Lying, MM, readAt, readingOf, turned, turnTowards } from './instruments'
import { useScale } from './useScale'

const HEIGHT = 58
const STEP = 4
const RADIUS = 150
const BESIDE_LIST = 1100
const SETTING_OFF: Record<Kind, number> = { ruler: 40, protractor: 60 }

/** How long a ruler fits the page, in millimetres. */
const fitting = (scale: number) =>
  Math.max(60, Math.min(150, Math.floor((window.innerWidth - 60) / (MM * scale) / 10) * 10))

const begin = (kind: Kind): Lying => ({
  x:
    kind === 'ruler'
      ? window.innerWidth > BESIDE_LIST
        ? 340
        : 24
      : Math.min(window.innerWidth / 2, 520),
  y: window.scrollY + window.innerHeight * 0.6,
  turn: 0,
  read: SETTING_OFF[kind],
})

/**
 * A ruler or a protractor over the page: its body is moved, its round end turns it, its line is
 * held against what is measured. Each by mouse, finger and arrow keys.
 */
export function Instrument({ kind, onClose }: { kind: Kind; onClose: () => void }) {
  const [lying, setLying] = useState(() => begin(kind))
  const scale = useScale()
  const [long] = useState(() => fitting(scale))
  const held = useRef<{ what: 'body' | 'turn' | 'read'; dx: number; dy: number } | null>(null)
  const most = kind === 'ruler' ? long : 180
  const name = kind === 'ruler' ? t`Ruler` : t`Protractor`
  const end = kind === 'ruler' ? long * MM : RADIUS

  const spot = (event: PointerEvent) => ({
    x: event.clientX + window.scrollX,
    y: event.clientY + window.scrollY,
  })
  const hold = (what: 'body' | 'turn' | 'read') => ({
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      const { x, y } = spot(event)
      event.currentTarget.setPointerCapture(event.pointerId)
      held.current = { what, dx: x - lying.x, dy: y - lying.y }
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      const hand = held.current
      if (hand?.what !== what) return
      const to = spot(event)
      if (what === 'body')
        setLying({ ...lying, x: Math.max(0, to.x - hand.dx), y: Math.max(0, to.y - hand.dy) })
      else if (what === 'turn') setLying({ ...lying, turn: turnTowards(lying, to) })
      else setLying({ ...lying, read: readAt(kind, lying, to, most, scale) })
    },
    onPointerUp: () => {
      held.current = null
    },
    onPointerCancel: () => {
      held.current = null
    },
  })
  const keys = (act: (across: number, down: number) => void) => (event: KeyboardEvent) => {
    const by = event.shiftKey ? 10 : 1
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    }
    const move = moves[event.key]
    if (event.key === 'Escape') onClose()
    else if (move) act(...move)
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  const read = (to: number) => setLying({ ...lying, read: Math.min(most, Math.max(0, to)) })
  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of SVG has no element of its own
    <svg
      role="group"
      aria-label={`${name}: ${readingOf(kind, lying.read)}`}
      className="pointer-events-none absolute z-10 overflow-visible"
      style={{ left: lying.x, top: lying.y }}
      width={1}
      height={1}
    >
      <g
        transform={`rotate(${lying.turn}) scale(${kind === 'ruler' ? scale : 1})`}
        className="pointer-events-auto touch-none"
      >
        {/* biome-ignore lint/a11y/noInteractiveElementToNoninteractiveRole: keys move it two ways */}
        <g
          role="application"
          aria-label={t`${name}. Arrow keys move it, Shift moves it further. It is at ${Math.round(lying.x)} across, ${Math.round(lying.y)} down.`}
          tabIndex={0}
          className="cursor-move"
          onKeyDown={keys((across, down) =>
            setLying({
              ...lying,
              x: Math.max(0, lying.x + STEP * across),
              y: Math.max(0, lying.y + STEP * down),
            }),
          )}
          {...hold('body')}
        >
          {kind === 'ruler' ? <RulerLines long={long} /> : <ProtractorLines />}
        </g>
        <circle
          role="slider"
          aria-label={t`Turn the ${name.toLowerCase()}`}
          aria-valuemin={-180}
          aria-valuemax={180}
          aria-valuenow={lying.turn}
          aria-valuetext={t`turned ${lying.turn}°`}
          tabIndex={0}
          cx={kind === 'ruler' ? end + 4 : end - 14}
          cy={kind === 'ruler' ? HEIGHT / 2 : 14}
          r={13}
          className="cursor-grab fill-gust"
          onKeyDown={keys((across, down) =>
            setLying({ ...lying, turn: turned(lying.turn + (across || down)) }),
          )}
          {...hold('turn')}
        />
        <g
          transform={
            kind === 'ruler' ? `translate(${lying.read * MM} 0)` : `rotate(${-lying.read})`
          }
        >
          <line
            role="slider"
            aria-label={t`Reading of the ${name.toLowerCase()}`}
            aria-valuemin={0}
            aria-valuemax={most}
            aria-valuenow={lying.read}
            aria-valuetext={readingOf(kind, lying.read)}
            tabIndex={0}
            {...(kind === 'ruler'
              ? { x1: 0, x2: 0, y1: -26, y2: HEIGHT }
              : { x1: 0, x2: RADIUS + 26, y1: 0, y2: 0 })}
            strokeWidth={3}
            className="cursor-grab stroke-wrong"
            onKeyDown={keys((across, down) => read(lying.read + (across || -down)))}
            {...hold('read')}
          />
          <circle
            cx={kind === 'ruler' ? 0 : RADIUS + 26}
            cy={kind === 'ruler' ? -26 : 0}
            r={10}
            className="cursor-grab fill-wrong"
            {...hold('read')}
          />
          <text
            x={kind === 'ruler' ? 14 : RADIUS + 40}
            y={kind === 'ruler' ? -20 : 5}
            className="fill-ink font-semibold"
          >
            {readingOf(kind, lying.read)}
          </text>
        </g>
      </g>
    </svg>
  )
}

function RulerLines({ long }: { long: number }) {
  return (
    <>
      <rect
        x={-8}
        y={0}
        width={long * MM + 30}
        height={HEIGHT}
        rx={6}
        className="fill-sun/30 stroke-edge"
      />
      {Array.from({ length: long + 1 }, (_, mm) => mm).map((mm) => (
        <line
          key={mm}
          x1={mm * MM}
          x2={mm * MM}
          y1={0}
          y2={mm % 10 === 0 ? 18 : mm % 5 === 0 ? 13 : 8}
          className="stroke-ink"
        />
      ))}
      {Array.from({ length: long / 10 + 1 }, (_, cm) => cm).map((cm) => (
        <text
          key={cm}
          x={cm * 10 * MM}
          y={34}
          textAnchor="middle"
          className="select-none fill-ink text-sm"
        >
          {cm}
        </text>
      ))}
      <text x={2} y={52} className="select-none fill-ink-2 text-xs">{t`cm`}</text>
    </>
  )
}

function ProtractorLines() {
  return (
    <>
      <path
        d={`M ${-RADIUS} 0 A ${RADIUS} ${RADIUS} 0 0 1 ${RADIUS} 0 V 26 H ${-RADIUS} Z`}
        className="fill-sun/30 stroke-edge"
      />
      <line x1={-RADIUS} x2={RADIUS} y1={0} y2={0} className="stroke-ink" />
      <circle r={3} className="fill-ink" />
      {Array.from({ length: 181 }, (_, degree) => degree).map((degree) => (
        <line
          key={degree}
          transform={`rotate(${-degree})`}
          x1={RADIUS - (degree % 10 === 0 ? 16 : degree % 5 === 0 ? 11 : 6)}
          x2={RADIUS}
          y1={0}
          y2={0}
          className="stroke-ink"
          strokeWidth={degree % 10 === 0 ? 1.2 : 0.6}
        />
      ))}
      {Array.from({ length: 13 }, (_, i) => i * 15).map((degree) => (
        <text
          key={degree}
          transform={`rotate(${-degree}) translate(${RADIUS - 28} 0) rotate(90)`}
          textAnchor="middle"
          className="select-none fill-ink text-xs"
        >
          {degree}
        </text>
      ))}
    </>
  )
}

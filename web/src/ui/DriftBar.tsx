import { t } from '@lingui/core/macro'
export interface DriftReading {
  /** The number to say, null while the range is too wide for one. */
  level: number | null
  middle: number
  low: number
  high: number
  target: number
}

interface Props {
  name: string
  reading: DriftReading
  past?: number[]
  size?: 'small' | 'large'
  met?: boolean
  muted?: boolean
  /** Whether there is nothing to show a range of: the post stands alone. */
  bare?: boolean
  /** What it says in words, where it shows something else than a level. */
  says?: string
}

/** The facts of a drift bar in a sentence: what a reader who cannot see it gets. */
function driftWords(name: string, { level, low, high, target }: DriftReading): string {
  const range = t`between ${Math.round(low)} and ${Math.round(high)}`
  const place =
    level === null ? t`not known yet, probably ${range}` : t`level ${level}, probably ${range}`
  return t`${name}: ${place}, target ${target}`
}

/**
 * A level on a track from 0 to 100: soft bar for the range believed, needle at the level, post at
 * the target, fading dots for where the needle stood before. Numbers stand beside it, not on it.
 */
export function DriftBar({
  name,
  reading,
  past = [],
  size = 'small',
  met,
  muted,
  bare,
  says,
}: Props) {
  const tall = size === 'large'
  const height = tall ? 56 : 28
  const centre = height / 2
  const thick = tall ? 22 : 14
  const known = reading.level !== null
  const tone = muted || !known ? 'pale' : met ? 'right' : 'gust'
  const fill = { pale: 'var(--v-pale)', right: 'var(--v-right-bar)', gust: 'var(--v-gust-mid)' }[
    tone
  ]
  const edge = {
    pale: 'var(--v-pale-edge)',
    right: 'var(--v-right-edge)',
    gust: 'var(--v-bar-edge)',
  }[tone]
  const width = Math.max(1.5, reading.high - reading.low)
  const from = Math.min(reading.low, 100 - width)
  return (
    <svg
      className="drift block w-full overflow-visible"
      height={height}
      role="img"
      aria-label={says ?? driftWords(name, reading)}
    >
      <line
        x1="0"
        x2="100%"
        y1={centre}
        y2={centre}
        stroke="var(--v-edge)"
        strokeOpacity="0.55"
        strokeWidth="1.5"
      />
      {past.map((level, i) => (
        <circle
          // biome-ignore lint/suspicious/noArrayIndexKey: dots have no identity but their place
          key={i}
          cx={`${level}%`}
          cy={centre}
          r={tall ? 4 : 3}
          fill="var(--v-ink-3)"
          opacity={0.3 + (0.45 * (i + 1)) / past.length}
        />
      ))}
      {!bare && (
        <rect
          y={centre - thick / 2}
          height={thick}
          rx={thick / 2}
          fill={fill}
          stroke={edge}
          strokeWidth="1.25"
          strokeDasharray={known ? undefined : '3 3'}
          style={{ x: `${from}%`, width: `${width}%` }}
        />
      )}
      {known && !bare && (
        <rect
          y={centre - thick / 2 - 4}
          width={3}
          height={thick + 8}
          rx={1.5}
          fill={muted ? 'var(--v-ink-3)' : 'var(--v-ink)'}
          style={{ x: `calc(${reading.middle}% - 1.5px)` }}
        />
      )}
      <rect
        x={`${reading.target}%`}
        y={centre - thick / 2 - 6}
        width={4}
        height={thick + 12}
        fill="var(--v-sun)"
        transform="translate(-2 0)"
      />
      <rect
        x={`${reading.target}%`}
        y={centre + thick / 2 + 4}
        width={10}
        height={2.5}
        rx={1.25}
        fill="var(--v-ink)"
        transform="translate(-5 0)"
      />
    </svg>
  )
}

import { t } from '@lingui/core/macro'

const HEIGHT = 84

/** How many results lie in each tenth of the scale, with a post at the pass mark. */
export function Tenths({ tenths, passMark }: { tenths: number[]; passMark: number | null }) {
  const most = Math.max(1, ...tenths)
  const says = tenths
    .map((count, n) => (count ? t`${count} from ${10 * n} to ${10 * n + 10}%` : ''))
    .filter(Boolean)
    .join('; ')
  return (
    <svg
      viewBox={`0 0 320 ${HEIGHT + 22}`}
      className="block w-full max-w-[22rem]"
      role="img"
      aria-label={t`Results: ${says}`}
    >
      {tenths.map((count, n) => {
        const height = (count / most) * (HEIGHT - 14)
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a tenth is its place
          <g key={n}>
            <rect
              x={n * 32 + 3}
              y={HEIGHT - height}
              width={26}
              height={height}
              rx={4}
              fill="var(--v-gust-mid)"
            />
            {count > 0 && (
              <text
                x={n * 32 + 16}
                y={HEIGHT - height - 4}
                textAnchor="middle"
                fontSize={12}
                fill="var(--v-ink-2)"
              >
                {count}
              </text>
            )}
          </g>
        )
      })}
      <line x1="0" x2="320" y1={HEIGHT} y2={HEIGHT} stroke="var(--v-edge)" strokeWidth="1.5" />
      {passMark !== null && (
        <line
          x1={passMark * 3.2}
          x2={passMark * 3.2}
          y1={6}
          y2={HEIGHT + 6}
          stroke="var(--v-sun)"
          strokeWidth="4"
        />
      )}
      {[0, 50, 100].map((at) => (
        <text
          key={at}
          x={at * 3.2}
          y={HEIGHT + 18}
          textAnchor={at === 0 ? 'start' : at === 100 ? 'end' : 'middle'}
          fontSize={12}
          fill="var(--v-ink-2)"
        >
          {at}%
        </text>
      ))}
    </svg>
  )
}

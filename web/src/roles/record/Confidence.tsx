import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'

const SIZE = 190
const PAD = 34

/** How sure and how often right: a point for each step of confidence, on the line where both are
 * the same. */
export function Confidence({ calibration }: { calibration: Schemas['CalibrationOut'] }) {
  const { steps, answers, sentence } = calibration
  const at = (percent: number) => PAD + (percent / 100) * (SIZE - 8)
  const up = (percent: number) => SIZE - (percent / 100) * (SIZE - 8)
  const words = steps
    .map((step) => t`felt ${step.said}% sure: right ${step.right}% of ${step.answers}`)
    .join('; ')
  return (
    <section>
      <h2 className="text-xl">{t`How sure, and how often right`}</h2>
      <p className="mt-0.5">{sentence}</p>
      {answers > 0 && (
        <div className="mt-2 flex flex-wrap items-center gap-6">
          <svg
            role="img"
            aria-label={words}
            width={SIZE + PAD + 16}
            height={SIZE + 42}
            className="max-w-full"
          >
            {[0, 50, 100].map((mark) => (
              <g key={mark} fontSize="13" fill="var(--v-ink-3)">
                <line x1={PAD} x2={at(100)} y1={up(mark)} y2={up(mark)} stroke="var(--v-line)" />
                <text x={PAD - 6} y={up(mark) + 5} textAnchor="end">
                  {mark}
                </text>
                <text x={at(mark)} y={SIZE + 18} textAnchor="middle">
                  {mark}
                </text>
              </g>
            ))}
            <line
              x1={at(0)}
              y1={up(0)}
              x2={at(100)}
              y2={up(100)}
              stroke="var(--v-edge)"
              strokeDasharray="4 4"
            />
            {steps.map((step) => (
              <circle
                key={step.said}
                cx={at(step.said)}
                cy={up(step.right)}
                r={4 + Math.min(9, Math.sqrt(step.answers))}
                fill="var(--v-gust-mid)"
                stroke="var(--v-ink)"
                strokeWidth="1.5"
              />
            ))}
            <text
              x={at(50)}
              y={SIZE + 33}
              textAnchor="middle"
              fontSize="13"
              fill="var(--v-ink-2)"
            >{t`how sure, in %`}</text>
          </svg>
        </div>
      )}
      {answers > 0 && (
        <p className="text-sm text-ink-3">{t`Upwards: how often right. On the dashed line, right as often as expected. Below it: too sure.`}</p>
      )}
      {answers > 0 && (
        <details className="mt-2 text-sm text-ink-2">
          <summary className="cursor-pointer">{t`How this was worked out`}</summary>
          <dl className="mt-1 grid w-fit grid-cols-[auto_auto] gap-x-5">
            <Fact name={t`Answers with a confidence`} value={String(answers)} />
            <Fact name={t`Brier score (0 is best)`} value={calibration.score.toFixed(3)} />
            <Fact name={t`Reliability (0 is best)`} value={calibration.reliability.toFixed(3)} />
            <Fact name={t`Resolution`} value={calibration.resolution.toFixed(3)} />
            <Fact name={t`Uncertainty`} value={calibration.uncertainty.toFixed(3)} />
          </dl>
        </details>
      )}
    </section>
  )
}

function Fact({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="text-ink-2">{name}</dt>
      <dd className="text-right font-semibold tabular-nums">{value}</dd>
    </>
  )
}

import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { duration } from '../../ui/durations'

/** Speed beside accuracy, topic by topic. */
export function Speed({ speed }: { speed: Schemas['SpeedOut'][] }) {
  if (speed.length === 0) return null
  const most = Math.max(...speed.map((one) => Math.max(one.seconds, one.needed)))
  return (
    <section className="mt-9">
      <h2 className="text-xl">{t`Speed and accuracy`}</h2>
      <p className="text-ink-2">{t`First tries. Bar: your usual time. Mark: the usual time for such questions.`}</p>
      <table className="mt-2 w-full border-collapse text-left">
        <thead className="sr-only">
          <tr>
            <th scope="col">{t`Topic`}</th>
            <th scope="col">{t`Time`}</th>
            <th scope="col">{t`Right`}</th>
          </tr>
        </thead>
        <tbody>
          {speed.map((one) => (
            <tr key={one.topic.key} className="border-b border-line">
              <th scope="row" className="w-60 py-1.5 pr-4 font-semibold">
                {one.topic.title}
              </th>
              <td className="py-1.5">
                <svg
                  role="img"
                  aria-label={t`${one.seconds} seconds, ${one.needed} needed`}
                  width="100%"
                  height="20"
                >
                  <rect
                    y="5"
                    height="10"
                    rx="5"
                    width={`${(88 * one.seconds) / most}%`}
                    fill="var(--v-gust-mid)"
                    stroke="var(--v-bar-edge)"
                  />
                  <rect
                    x={`${(88 * one.needed) / most}%`}
                    y="1"
                    width="3"
                    height="18"
                    fill="var(--v-ink)"
                  />
                </svg>
              </td>
              <td className="py-1.5 pl-4 @3xl:w-64 @3xl:whitespace-nowrap text-ink-2 tabular-nums">
                {t`${duration(one.seconds)} for ${duration(one.needed)},`}{' '}
                <span className="font-semibold text-ink">{t`${one.right}% right`}</span>{' '}
                {t`of ${one.answers}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import { TextLink } from '../../../ui/TextLink'
import { Tenths } from './Tenths'

type Analysis = Schemas['AnalysisOut']

/** The figures of the test, and whose result stands out. */
export function Whole({
  figures,
  attempts,
}: {
  figures: NonNullable<Analysis['figures']>
  attempts: number
}) {
  const rows: [string, string][] = [
    [
      t`Mean, middle, spread`,
      t`${figures.mean}, ${figures.median}, ${figures.sd} of ${figures.scale}`,
    ],
  ]
  if (figures.alpha !== null && figures.alpha_low !== null && figures.alpha_high !== null) {
    rows.push([
      t`Reliability (alpha), 95%`,
      t`${figures.alpha}, ${figures.alpha_low} to ${figures.alpha_high}`,
    ])
  }
  if (figures.error !== null) rows.push([t`A mark is good to about`, `± ${figures.error}`])
  rows.push([
    t`Time used in the middle`,
    figures.ran_out > 0
      ? t`${figures.minutes} min, ${figures.ran_out} ran out`
      : t`${figures.minutes} min`,
  ])
  if (figures.numbers !== null)
    rows.push([t`Spread due to own numbers`, `${Math.round(100 * figures.numbers)}%`])
  if (figures.agreement !== null) rows.push([t`Goes with the levels`, `${figures.agreement}`])
  if (figures.passed !== null) rows.push([t`Passed`, t`${figures.passed} of ${attempts}`])
  return (
    <section>
      <h2 className="text-xl">{t`The test as a whole`}</h2>
      <dl className="mt-1">
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-4 border-b border-line py-2">
            <dt className="text-ink-2">{name}</dt>
            <dd className="text-right tabular-nums">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-3">{figures.says}</p>
      {figures.near_pass && <p className="mt-2">{figures.near_pass}</p>}
      {figures.standouts.length > 0 && (
        <>
          <h3 className="mt-4 text-lg">{t`Far from what their levels let expect`}</h3>
          <ul className="mt-1">
            {figures.standouts.map((one) => (
              <li key={one.learner}>
                <TextLink to={`/tutor/learners/${one.learner}`}>{one.name}</TextLink>
                {t`: ${one.per_cent}%, expected ${one.expected}%`}
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="mt-4">
        <Tenths tenths={figures.tenths} passMark={null} />
      </div>
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { comparisonQuery } from './queries'

/** A test beside its other sittings: as a whole, then question by question. */
export function Beside({ group, assignment }: { group: number; assignment: number }) {
  const found = useQuery(comparisonQuery(group, assignment)).data
  if (!found || found.sittings.length < 2) return null
  return (
    <section aria-label={t`Beside other sittings`} className="mt-8 min-w-0">
      <h2 className="text-xl">{t`Beside other sittings`}</h2>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is reached by keyboard too */}
      <section className="mt-2 overflow-x-auto" tabIndex={0} aria-label={t`Shares by sitting`}>
        <table className="min-w-full border-collapse text-left tabular-nums">
          <thead className="border-edge border-b-2 align-bottom text-ink-2 text-sm">
            <tr>
              <th scope="col" className="py-1.5 pr-4 font-normal">{t`Question`}</th>
              {found.sittings.map((one) => (
                <th key={one.title} scope="col" className="min-w-28 px-2 py-1.5 font-normal">
                  {one.title}
                  <span className="block">
                    {one.mean === null
                      ? t`no results`
                      : t`${one.attempts} results, mean ${one.mean}%, spread ${one.sd ?? 0}`}
                  </span>
                </th>
              ))}
              <th scope="col" className="px-2 py-1.5 font-normal">{t`Differs by`}</th>
            </tr>
          </thead>
          <tbody>
            {found.questions.map((one) => (
              <tr key={one.family} className="border-line border-b">
                <th scope="row" className="py-1.5 pr-4 font-normal">
                  {one.title}
                </th>
                {one.shares.map((share, place) => (
                  <td key={found.sittings[place]?.title} className="px-2">
                    {share === null ? '' : `${share}%`}
                  </td>
                ))}
                <td className={`px-2 ${(one.away ?? 0) < 0 ? 'text-wrong' : 'text-correct'}`}>
                  {one.away !== null && `${one.away > 0 ? '+' : '−'}${Math.abs(one.away)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <p className="mt-1.5 max-w-3xl text-ink-2 text-sm">{t`A difference is named where it is 15 points or more and chance hardly explains it.`}</p>
    </section>
  )
}

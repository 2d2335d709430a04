import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import type { Typed } from './marks'
import type { Formula } from './queries'

/** What explains the examples so far, and the examples. */
export function Found({ typed, reply }: { typed: Typed; reply: Formula }) {
  const asks = reply.state === 'asks'
  const given = typed.rows.filter(({ answer }) => answer.trim() !== '')
  const names = typed.marks.map(({ name }) => name)
  return (
    <div className="mt-6 grid gap-8 @3xl:grid-cols-2">
      {reply.fits.length > 0 && (
        <section aria-labelledby="fits">
          <h2 id="fits" className="text-xl">
            {asks ? t`What fits so far` : t`The formula`}
          </h2>
          <ul className="mt-1">
            {reply.fits.map((fit) => (
              <li
                key={fit.formula}
                className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-4 border-b border-line py-3"
              >
                <span>
                  <Html html={fit.maths_html} />
                  <span className="block text-ink-2">{fit.words}</span>
                </span>
                {asks && (
                  <span className="text-ink-2 tabular-nums">{t`would be ${fit.would_be}`}</span>
                )}
              </li>
            ))}
          </ul>
          {reply.more > 0 && <p className="mt-2 text-ink-2">{t`and ${reply.more} others`}</p>}
          <p className="mt-2 text-sm text-ink-2">
            {asks
              ? t`You’re done when the shortest formulas agree on fifty versions.`
              : t`Every other short formula that fits agrees with it on fifty versions.`}
          </p>
        </section>
      )}
      <section aria-labelledby="given">
        <h2 id="given" className="text-xl">{t`Your examples`}</h2>
        <table className="mt-1 w-full text-left tabular-nums">
          <thead className="text-sm text-ink-2">
            <tr>
              {names.map((name) => (
                <th key={name} scope="col" className="py-1 pr-3 font-normal">
                  {name}
                </th>
              ))}
              <th scope="col" className="py-1 font-normal">{t`answer`}</th>
            </tr>
          </thead>
          <tbody>
            {given.map(({ values, answer }, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: examples have no identity
              <tr key={i} className="border-t border-line">
                {names.map((name) => (
                  <td key={name} className="py-1.5 pr-3">
                    {values[name]}
                  </td>
                ))}
                <td className="py-1.5 font-semibold">{answer}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  )
}

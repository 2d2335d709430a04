import { t } from '@lingui/core/macro'
import { Button } from '../../../ui/Button'
import type { Versions } from './queries'

type Row = Versions['rows'][number]

/** Twelve versions, a line each: what was drawn, the answer, near misses, and what is wrong. */
export function VersionsTable({
  versions,
  seed,
  onSeed,
  onLeaveOut,
}: {
  versions: Versions
  seed: number
  onSeed: (seed: number) => void
  /** Has the versions that puzzle left out, where a condition would do it. */
  onLeaveOut: (constraints: string[]) => void
}) {
  const several = (versions.rows[0]?.parts.length ?? 0) > 1
  return (
    <section aria-labelledby="versions" className="min-w-0">
      <h2 id="versions" className="text-xl">
        {versions.versions === 1
          ? t`The only version`
          : t`${versions.rows.length} of ${versions.versions} versions`}
        <span className="ml-3 font-sans text-base font-normal text-ink-2">
          {t`select one to try it`}
        </span>
      </h2>
      <div className="relative mt-2 overflow-x-auto">
        <table className="w-full text-left tabular-nums">
          <thead className="text-sm text-ink-2">
            <tr>
              <th scope="col" className="py-1 pr-2 font-normal">
                <span className="sr-only">{t`Version`}</span>
              </th>
              {versions.names.map((name) => (
                <th key={name} scope="col" className="px-2 py-1 font-normal">
                  {name}
                </th>
              ))}
              <th scope="col" className="px-2 py-1 font-normal">
                {several ? t`answers` : t`answer`}
              </th>
              <th scope="col" className="px-2 py-1 font-normal">{t`expected wrong ones`}</th>
            </tr>
          </thead>
          <tbody>
            {versions.rows.map((row) => (
              <Line key={row.seed} row={row} on={row.seed === seed} onSeed={onSeed} />
            ))}
          </tbody>
        </table>
      </div>
      <Below versions={versions} onLeaveOut={onLeaveOut} />
    </section>
  )
}

function Line({ row, on, onSeed }: { row: Row; on: boolean; onSeed: (seed: number) => void }) {
  const wrong = row.faults.map(({ says }) => says)
  return (
    <tr
      className={`border-t border-line align-top ${on ? 'bg-sheet' : 'hover:bg-sheet/60'}`}
      onClick={() => onSeed(row.seed)}
    >
      <td className="py-0.5 pr-2">
        <button
          type="button"
          aria-pressed={on}
          aria-label={t`Try version ${row.seed}`}
          onClick={() => onSeed(row.seed)}
          className={`min-h-7 min-w-7 rounded-md px-1.5 ${on ? 'bg-deep text-on-deep' : 'text-gust hover:underline'}`}
        >
          {row.seed}
        </button>
      </td>
      {row.values.map((value, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: columns
        <td key={place} className="px-2 py-1">
          {value}
        </td>
      ))}
      <td className="px-2 py-1 font-semibold">{row.parts.map(({ right }) => right).join('; ')}</td>
      <td className="px-2 py-1 text-sm">
        <span className="text-ink-2">
          {row.parts.flatMap(({ slips }) => slips.map(({ words }) => words)).join(' · ')}
        </span>
        {wrong.map((says) => (
          <span key={says} className="block text-wrong">
            {says}
          </span>
        ))}
        {row.doubts.map((says) => (
          <span key={says} className="block text-part">
            {says}
          </span>
        ))}
      </td>
    </tr>
  )
}

function Below({
  versions,
  onLeaveOut,
}: {
  versions: Versions
  onLeaveOut: (constraints: string[]) => void
}) {
  const { looked_at, faulty, doubted, constraints, differing } = versions
  return (
    <p role="status" className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-1 text-ink-2">
      {faulty.length > 0 && (
        <span className="font-semibold text-wrong">
          {t`${faulty.length} of ${looked_at} versions can’t be used like this.`}
        </span>
      )}
      {doubted.length > 0 && (
        <span className="text-part">
          {t`${doubted.length} of ${looked_at} versions may confuse learners.`}
        </span>
      )}
      {doubted.length > 0 && constraints.length > 0 && (
        <Button kind="quiet" onClick={() => onLeaveOut(constraints)}>{t`Leave them out`}</Button>
      )}
      {faulty.length + doubted.length === 0 && (
        <span>{t`Nothing wrong in the ${looked_at} versions looked at; ${differing} differ.`}</span>
      )}
    </p>
  )
}

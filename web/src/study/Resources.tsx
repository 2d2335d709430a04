import { t } from '@lingui/core/macro'
import type { Schemas } from '../api/client'

/** What stands beside a section: films that play here, files to save, links that lead away. */
export function Resources({ resources }: { resources: Schemas['ResourceOut'][] }) {
  if (resources.length === 0) return null
  return (
    <ul className="mt-5 grid gap-4">
      {resources.map((one) => (
        <li key={one.key}>
          {one.kind === 'video' ? (
            <figure className="max-w-xl">
              <video
                controls
                preload="metadata"
                aria-label={one.title}
                className="w-full rounded-lg border border-line"
              >
                <source src={one.address} />
                <track
                  default
                  kind="captions"
                  srcLang="en"
                  label={t`English`}
                  src={one.captions ?? undefined}
                />
              </video>
              <figcaption className="mt-1 text-sm text-ink-2">
                {t`${one.title}, ${one.minutes} min, with captions`}
              </figcaption>
            </figure>
          ) : (
            <a
              href={one.address}
              className="font-semibold text-gust hover:underline"
              {...(one.kind === 'file'
                ? { download: true }
                : { target: '_blank', rel: 'noreferrer' })}
            >
              {one.title}
              {one.kind === 'link' && t` (another website, opens in a new tab)`}
            </a>
          )}
        </li>
      ))}
    </ul>
  )
}

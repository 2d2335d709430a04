import { t } from '@lingui/core/macro'
import { Check as Tick } from 'lucide-react'
import { useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { TextLink } from '../../../ui/TextLink'

type Section = Schemas['StudyStepOut']

/** Study sections of set work, each with whether it was read. */
export function StudyFirst({ sections, heading }: { sections: Section[]; heading: string }) {
  const to = useTo()
  if (sections.length === 0) return null
  return (
    <section className="mt-6">
      <h2 className="text-xl">{heading}</h2>
      <ul className="mt-1">
        {sections.map((one) => (
          <li
            key={`${one.topic}/${one.section}`}
            className="flex flex-wrap items-center gap-x-3 border-b border-line py-2"
          >
            <TextLink to={to(`/study/${one.topic}#${one.section}`)}>{one.title}</TextLink>
            <span className="text-ink-2">{t`${one.minutes} min`}</span>
            {one.opened && (
              <span className="flex items-center gap-1 text-ink-2">
                <Tick size={16} aria-hidden="true" /> {t`read`}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

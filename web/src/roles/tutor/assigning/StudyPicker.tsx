import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import { Check } from '../../../ui/Check'
import type { Section } from './assignment'

interface Props {
  study: Schemas['StudyLineOut'][]
  chosen: Section[]
  onChange: (sections: Section[]) => void
}

/** Study sections to choose from, by topic; each topic opens when it is asked for. */
export function StudyPicker({ study, chosen, onChange }: Props) {
  const topics = [...new Map(study.map((one) => [one.topic.key, one.topic.title]))]
  const has = (topic: string, section: string) =>
    chosen.some((one) => one.topic === topic && one.section === section)
  return (
    <div className="max-w-2xl">
      {topics.map(([topic, title]) => {
        const sections = study.filter((one) => one.topic.key === topic)
        const count = sections.filter((one) => has(topic, one.section)).length
        return (
          <details
            key={topic}
            className="border-b border-line py-1.5"
            open={count > 0 || undefined}
          >
            <summary className="cursor-pointer py-1">
              {title}
              {count > 0 && <span className="ml-3 text-sm text-ink-2">{t`${count} chosen`}</span>}
            </summary>
            {sections.map((one) => (
              <Check
                key={one.section}
                on={has(topic, one.section)}
                set={(on) =>
                  onChange(
                    on
                      ? [...chosen, { topic, section: one.section }]
                      : chosen.filter((c) => c.topic !== topic || c.section !== one.section),
                  )
                }
              >
                <span>
                  {one.title} <span className="text-sm text-ink-2">{t`${one.minutes} min`}</span>
                </span>
              </Check>
            ))}
          </details>
        )
      })}
    </div>
  )
}

import { t } from '@lingui/core/macro'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Check } from '../../ui/Check'
import { fieldClass, Labelled } from '../../ui/Field'
import { BankSearch } from './BankSearch'
import { type Entry, newSection, type Section, SectionForm } from './SectionForm'

type Composition = Schemas['CompositionData']

interface Props {
  course: string
  topics: Schemas['PlaceOut'][]
  composition: Composition
  problems: Record<string, string>
  /** Titles of the families in it, where they are known. */
  known: Record<string, string>
  working: boolean
  onChange: (composition: Composition) => void
}

/** Sections with their questions and draws, in order, with points; and the bank to pick from. */
export function ComposeQuestions(props: Props) {
  const { course, topics, composition, problems, working, onChange } = props
  const [titles, setTitles] = useState<Record<string, string>>(props.known)
  const [into, setInto] = useState(0)
  const sections = composition.sections
  const at = Math.min(into, sections.length - 1)
  const change = (index: number, next: Partial<Section>) =>
    onChange({
      ...composition,
      sections: sections.map((one, i) => (i === index ? { ...one, ...next } : one)),
    })
  const add = (families: { key: string; title: string }[], count: number) => {
    setTitles({ ...titles, ...Object.fromEntries(families.map((one) => [one.key, one.title])) })
    const entry: Entry = {
      families: families.map((one) => one.key),
      count,
      points: '1',
      working: false,
    }
    change(at, { entries: [...(sections[at]?.entries ?? []), entry] })
  }
  const taken = new Set(
    sections.flatMap((section) =>
      section.entries.filter((one) => one.families.length === 1).flatMap((one) => one.families),
    ),
  )
  return (
    <section aria-labelledby="questions" className="mt-8">
      <h2 id="questions" className="text-xl">{t`Questions`}</h2>
      {problems.sections && <p className="text-wrong">{problems.sections}</p>}
      {sections.map((section, s) => (
        <SectionForm
          // biome-ignore lint/suspicious/noArrayIndexKey: sections have no identity but their place
          key={s}
          section={section}
          place={`sections.${s}`}
          alone={sections.length === 1}
          working={working}
          titles={titles}
          problems={problems}
          onChange={(next) => change(s, next)}
          onRemove={() =>
            onChange({ ...composition, sections: sections.filter((_, i) => i !== s) })
          }
        />
      ))}
      <div className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-2">
        <Button
          kind="quiet"
          onClick={() => {
            onChange({
              ...composition,
              sections: [...sections, newSection(t`Part ${sections.length + 1}`)],
            })
            setInto(sections.length)
          }}
        >{t`Add a section`}</Button>
        <Check
          on={composition.same_versions ?? true}
          set={(on) => onChange({ ...composition, same_versions: on })}
        >{t`same numbers for everyone`}</Check>
        <Check
          on={composition.shuffled_choices ?? false}
          set={(on) => onChange({ ...composition, shuffled_choices: on })}
        >{t`shuffle choices for each attempt`}</Check>
        {sections.length > 1 && (
          <Labelled label={t`Add questions to`}>
            <select
              className={fieldClass}
              value={at}
              onChange={(event) => setInto(Number(event.target.value))}
            >
              {sections.map((section, s) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: as above
                <option key={s} value={s}>
                  {section.title}
                </option>
              ))}
            </select>
          </Labelled>
        )}
      </div>
      <BankSearch course={course} topics={topics} taken={taken} onAdd={add} />
    </section>
  )
}

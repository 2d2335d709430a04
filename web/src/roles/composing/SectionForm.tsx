import { t } from '@lingui/core/macro'
import { ArrowDown, ArrowUp, X } from 'lucide-react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Check } from '../../ui/Check'
import { fieldClass, Labelled, TextArea } from '../../ui/Field'
import { IconButton } from '../../ui/IconButton'

export type Section = Schemas['SectionData']
export type Entry = Section['entries'][number]

export const newSection = (title: string): Section => ({
  title,
  directions: '',
  entries: [],
  shuffled: false,
  one_page: false,
  forward_only: false,
})

/** One section: its own title and minutes where there are several, and its questions in order. */
export function SectionForm({
  section,
  place,
  alone,
  working,
  titles,
  problems,
  onChange,
  onRemove,
}: {
  section: Section
  place: string
  alone: boolean
  /** Whether some questions want working, so that each can be marked. */
  working: boolean
  titles: Record<string, string>
  problems: Record<string, string>
  onChange: (next: Partial<Section>) => void
  onRemove: () => void
}) {
  const entries = section.entries
  const set = (index: number, next: Partial<Entry>) =>
    onChange({ entries: entries.map((one, i) => (i === index ? { ...one, ...next } : one)) })
  const move = (from: number, to: number) => {
    const next = [...entries]
    const [one] = next.splice(from, 1)
    if (one) next.splice(to, 0, one)
    onChange({ entries: next })
  }
  return (
    <div className="mt-3 rounded-box bg-sheet p-4">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        {!alone && (
          <>
            <Labelled label={t`Section`}>
              <input
                className={fieldClass}
                value={section.title}
                maxLength={120}
                onChange={(event) => onChange({ title: event.target.value })}
              />
            </Labelled>
            <Labelled label={t`Time limit for this section (minutes)`}>
              <input
                type="number"
                min={1}
                max={600}
                className={`${fieldClass} w-28`}
                value={section.minutes ?? ''}
                onChange={(event) =>
                  onChange({ minutes: event.target.value ? Number(event.target.value) : null })
                }
              />
            </Labelled>
            <Button kind="quiet" onClick={onRemove}>{t`Remove the section`}</Button>
          </>
        )}
        <Check
          on={section.shuffled ?? false}
          set={(on) => onChange({ shuffled: on })}
        >{t`shuffle questions for each attempt`}</Check>
        <Check
          on={section.one_page ?? false}
          set={(on) => onChange({ one_page: on })}
        >{t`all questions on one page`}</Check>
        {!alone && (
          <Check
            on={section.forward_only ?? false}
            set={(on) => onChange({ forward_only: on })}
          >{t`forward only`}</Check>
        )}
      </div>
      {!alone && (
        <Labelled label={t`Instructions for this section (optional)`} className="mt-2">
          <TextArea
            rows={2}
            maxLength={4000}
            value={section.directions ?? ''}
            onChange={(event) => onChange({ directions: event.target.value })}
          />
        </Labelled>
      )}
      {['minutes', 'one_page'].map(
        (field) =>
          problems[`${place}.${field}`] && (
            <p key={field} className="text-wrong">
              {problems[`${place}.${field}`]}
            </p>
          ),
      )}
      {entries.length === 0 && (
        <p className="mt-2 text-ink-2">{t`No questions yet. Add some from the bank below.`}</p>
      )}
      <ol className="mt-1">
        {entries.map((entry, e) => {
          const name =
            entry.families.length === 1
              ? (titles[entry.families[0] ?? ''] ?? entry.families[0])
              : t`${entry.count} drawn from ${entry.families.length}`
          const wrong = Object.entries(problems).filter(([field]) =>
            field.startsWith(`${place}.entries.${e}.`),
          )
          return (
            <li key={entry.families.join()} className="border-b border-line py-1.5">
              <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
                <span className="min-w-0 flex-1 basis-48">{name}</span>
                {entry.families.length > 1 && (
                  <label className="flex items-center gap-2 text-sm text-ink-2">
                    {t`how many`}
                    <input
                      type="number"
                      min={1}
                      max={entry.families.length}
                      className={`${fieldClass} w-20`}
                      value={entry.count}
                      onChange={(event) => set(e, { count: Number(event.target.value) || 1 })}
                    />
                  </label>
                )}
                <label className="flex items-center gap-2 text-sm text-ink-2">
                  {t`points`}
                  <input
                    type="number"
                    min={1}
                    max={100}
                    className={`${fieldClass} w-20`}
                    value={entry.points}
                    onChange={(event) => set(e, { points: event.target.value || '1' })}
                  />
                </label>
                {working && (
                  <Check
                    label={t`Working required for ${name ?? ''}`}
                    on={entry.working ?? false}
                    set={(on) => set(e, { working: on })}
                  >
                    <span className="text-sm text-ink-2">{t`working`}</span>
                  </Check>
                )}
                <IconButton
                  icon={ArrowUp}
                  label={t`Move ${name ?? ''} up`}
                  off={e === 0}
                  act={() => move(e, e - 1)}
                />
                <IconButton
                  icon={ArrowDown}
                  label={t`Move ${name ?? ''} down`}
                  off={e === entries.length - 1}
                  act={() => move(e, e + 1)}
                />
                <IconButton
                  icon={X}
                  label={t`Remove ${name ?? ''}`}
                  act={() => onChange({ entries: entries.filter((_, i) => i !== e) })}
                />
              </div>
              {wrong.map(([field, says]) => (
                <p key={field} className="text-wrong">
                  {says}
                </p>
              ))}
            </li>
          )
        })}
      </ol>
    </div>
  )
}

import { t } from '@lingui/core/macro'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { TextField } from '../../../ui/Field'
import { MoveButtons } from '../../../ui/MoveButtons'
import { TextLink } from '../../../ui/TextLink'
import { counted } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import type { InUse, Shape, Subject, Topic } from './queries'
import { before, inSubject, type Place, withTopic } from './shape'

interface Props {
  course: string
  shape: Shape
  place: Place
  use?: InUse
  unsaved: boolean
  onShape: (subjects: Subject[]) => void
  onMove: (to: number) => void
  onRemove: () => void
  onMerge: (topic: Topic) => void
}

/** A topic: what it aims for and how much it counts; the rest is opened. */
export function TopicForm(props: Props) {
  const { course, shape, place, use, onShape } = props
  const [open, setOpen] = useState(false)
  const topic = shape.subjects[place.s]?.topics[place.t]
  if (!topic) return null
  const name = topic.title || t`new topic`
  const set = (next: Partial<Topic>) => onShape(withTopic(shape, place, next))
  const last = (shape.subjects[place.s]?.topics.length ?? 0) - 1
  const removable = use ? use.removable : topic.key === ''
  return (
    <li className="border-t border-line pt-3">
      <div className="flex flex-wrap items-end gap-2">
        <TextField
          label={t`Topic`}
          value={topic.title}
          required
          maxLength={120}
          className="min-w-44 grow"
          fieldWidth="w-full"
          onText={(title) => set({ title })}
        />
        <TextField
          label={t`Target, %`}
          type="number"
          min={10}
          max={95}
          required
          fieldWidth="w-20"
          value={topic.target}
          onText={(text) => set({ target: Number(text) })}
        />
        <TextField
          label={t`Importance`}
          type="number"
          min={0.1}
          max={10}
          step={0.1}
          required
          fieldWidth="w-20"
          value={topic.importance}
          onText={(text) => set({ importance: Number(text) })}
        />
        <MoveButtons
          name={name}
          place={place.t}
          many={last + 1}
          onMove={props.onMove}
          onRemove={removable && last > 0 ? props.onRemove : undefined}
        />
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-[0.95rem]">
        <button
          type="button"
          aria-expanded={open}
          aria-label={t`More about ${name}`}
          className="flex min-h-8 items-center gap-1 text-gust"
          onClick={() => setOpen(!open)}
        >
          {open ? (
            <ChevronDown size={18} aria-hidden="true" />
          ) : (
            <ChevronRight size={18} aria-hidden="true" />
          )}
          {t`More`}
        </button>
        <span className="text-ink-2">{inUse(topic, use)}</span>
        {topic.key && use && (
          <TextLink to={`/author/course/${course}/pages/${topic.key}`}>{t`Study page`}</TextLink>
        )}
      </div>
      {open && (
        <div className="mt-2 mb-2 grid gap-4 @3xl:grid-cols-2">
          <BuildsOn topic={topic} choices={before(shape, place)} set={(after) => set({ after })} />
          <div className="grid content-start gap-3">
            {shape.subjects.length > 1 && last > 0 && (
              <Pick
                label={t`In the subject`}
                options={shape.subjects.map(({ title }, at) => [String(at), title])}
                value={String(place.s)}
                onChange={(to) => onShape(inSubject(shape, place, Number(to)))}
              />
            )}
            <Check on={topic.closed} set={(closed) => set({ closed })}>
              {t`Closed: nobody is asked about it, and what was learned is kept`}
            </Check>
            {use && (
              <p>
                <Button disabled={props.unsaved} onClick={() => props.onMerge(topic)}>
                  {t`Merge into another topic`}
                </Button>
                {props.unsaved && (
                  <span className="ml-3 text-sm text-ink-2">{t`Save your changes first.`}</span>
                )}
              </p>
            )}
          </div>
        </div>
      )}
    </li>
  )
}

function inUse(topic: Topic, use?: InUse): string {
  if (topic.closed) return t`Closed`
  if (!use) return t`New`
  const said = [counted(use.questions, 'question')]
  if (use.drafts) said.push(use.drafts === 1 ? t`one draft` : t`${use.drafts} drafts`)
  if (use.learners) said.push(t`${counted(use.learners, 'learner')} with answers`)
  return said.join(', ')
}

function BuildsOn({
  topic,
  choices,
  set,
}: {
  topic: Topic
  choices: Topic[]
  set: (after: string[]) => void
}) {
  return (
    <fieldset>
      <legend className="font-semibold">{t`Builds on`}</legend>
      {choices.length === 0 && <p className="text-ink-2">{t`There is no saved topic above it.`}</p>}
      {choices.map(({ key, title }) => (
        <Check
          key={key}
          on={topic.after.includes(key)}
          set={(on) => set(on ? [...topic.after, key] : topic.after.filter((one) => one !== key))}
        >
          {title}
        </Check>
      ))}
    </fieldset>
  )
}

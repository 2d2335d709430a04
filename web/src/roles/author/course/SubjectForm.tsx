import { t } from '@lingui/core/macro'
import { ArrowDown, ArrowUp, X } from 'lucide-react'
import { Button } from '../../../ui/Button'
import { TextField } from '../../../ui/Field'
import { IconButton } from '../../../ui/IconButton'
import type { InUse, Shape, Subject, Topic } from './queries'
import { moved, newTopic, put } from './shape'
import { TopicForm } from './TopicForm'

interface Props {
  course: string
  shape: Shape
  place: number
  inUse: InUse[]
  unsaved: boolean
  onShape: (subjects: Subject[]) => void
  onSubject: (next: Partial<Subject>) => void
  onMove: (to: number) => void
  onRemove: () => void
  onMerge: (topic: Topic) => void
}

/** A subject with its topics. */
export function SubjectForm(props: Props) {
  const { shape, place: s, inUse, onSubject } = props
  const subject = shape.subjects[s]
  if (!subject) return null
  const name = subject.title || t`new subject`
  const { topics } = subject
  return (
    <section aria-label={name} className="rounded-box bg-sheet p-4">
      <div className="flex flex-wrap items-end gap-2">
        <TextField
          label={t`Subject`}
          value={subject.title}
          required
          maxLength={120}
          className="min-w-52 grow"
          fieldWidth="w-full text-lg font-semibold"
          onText={(title) => onSubject({ title })}
        />
        <IconButton
          icon={ArrowUp}
          label={t`Move ${name} up`}
          off={s === 0}
          act={() => props.onMove(s - 1)}
        />
        <IconButton
          icon={ArrowDown}
          label={t`Move ${name} down`}
          off={s === shape.subjects.length - 1}
          act={() => props.onMove(s + 1)}
        />
        {topics.every(({ key }) => key === '') && (
          <IconButton icon={X} label={t`Remove ${name}`} act={props.onRemove} />
        )}
      </div>
      <ul className="mt-3 grid gap-3">
        {topics.map((topic, at) => (
          <TopicForm
            key={topic.key || `new-${at}`}
            course={props.course}
            shape={shape}
            place={{ s, t: at }}
            use={inUse.find(({ key }) => key === topic.key)}
            unsaved={props.unsaved}
            onShape={props.onShape}
            onMove={(to) => onSubject({ topics: moved(topics, at, to) })}
            onRemove={() => onSubject({ topics: put(topics, at) })}
            onMerge={props.onMerge}
          />
        ))}
      </ul>
      <p className="mt-3">
        <Button
          aria-label={t`Add a topic to ${name}`}
          onClick={() => onSubject({ topics: [...topics, newTopic()] })}
        >{t`Add a topic`}</Button>
      </p>
    </section>
  )
}

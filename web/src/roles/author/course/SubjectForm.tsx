import { t } from '@lingui/core/macro'
import { Button } from '../../../ui/Button'
import { TextField } from '../../../ui/Field'
import { MoveButtons } from '../../../ui/MoveButtons'
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
        <MoveButtons
          name={name}
          place={s}
          many={shape.subjects.length}
          onMove={props.onMove}
          onRemove={topics.every(({ key }) => key === '') ? props.onRemove : undefined}
        />
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

import { t } from '@lingui/core/macro'
import { useQueryClient } from '@tanstack/react-query'
import { useId } from 'react'
import type { Schemas } from '../../../api/client'
import { LargeFigure } from '../../../player/Figure'
import { Labelled, TextArea, TextField } from '../../../ui/Field'
import { Html } from '../../../ui/Html'
import { MoveButtons } from '../../../ui/MoveButtons'
import { TextLink } from '../../../ui/TextLink'
import { counted } from '../../../ui/words'
import { keys } from '../keys'
import { DrawingField } from './DrawingField'
import type { Resource, Section } from './queries'
import { ResourcesField } from './ResourcesField'

interface Props {
  course: string
  topic: string
  section: Section
  shown?: Schemas['SectionShownOut']
  use?: Schemas['SectionUseOut']
  place: number
  many: number
  resources: Resource[]
  onChange: (next: Section) => void
  onResources: (next: Resource[]) => void
  onMove: (to: number) => void
  onRemove: () => void
}

/** A section as it is written and as learners will see it, with the questions it explains. */
export function SectionForm(props: Props) {
  const { course, section, shown, use, onChange } = props
  const cache = useQueryClient()
  const id = useId()
  const name = section.title || t`new section`
  const set = (next: Partial<Section>) => onChange({ ...section, ...next })
  return (
    <li className="grid items-start gap-5 rounded-box bg-sheet p-4 @4xl:grid-cols-2">
      <div className="grid min-w-0 gap-3">
        <div className="flex items-end gap-1">
          <TextField
            label={t`Title`}
            value={section.title}
            maxLength={160}
            className="grow"
            fieldWidth="w-full font-semibold"
            onText={(title) => set({ title })}
          />
          <MoveButtons
            name={name}
            place={props.place}
            many={props.many}
            onMove={props.onMove}
            onRemove={props.many > 1 ? props.onRemove : undefined}
          />
        </div>
        <Labelled label={t`Text`}>
          <TextArea
            rows={Math.min(18, Math.max(6, section.body.split('\n').length + 1))}
            maxLength={20_000}
            value={section.body}
            onChange={({ target }) => set({ body: target.value })}
          />
        </Labelled>
        <DrawingField
          course={course}
          topic={props.topic}
          onDrawn={(name, alt, page) => {
            cache.setQueryData(keys.studyPage(course, props.topic), page)
            set({ body: `${section.body.trim()}\n\n![${alt}](${name})` })
          }}
        />
        <ResourcesField
          course={course}
          topic={props.topic}
          section={section.key}
          resources={props.resources}
          onChange={props.onResources}
        />
      </div>
      <section aria-labelledby={id} className="min-w-0">
        <h2 id={id} className="text-2xl">
          {section.title}
        </h2>
        {shown && (
          <>
            <Html html={shown.html} className="prose-study mt-2 overflow-x-auto" />
            {shown.figure && <LargeFigure figure={shown.figure} className="mt-4 max-w-xl" />}
            <p className="mt-3 text-ink-2">{t`${shown.minutes} min to read`}</p>
          </>
        )}
        {section.key && use && (
          <p className="mt-2">
            <TextLink
              to={`/author/course/${course}/trials/new?topic=${props.topic}&section=${section.key}`}
            >{t`Compare two texts`}</TextLink>
          </p>
        )}
        {use?.after && <After after={use.after} />}
        {use && (
          <p className="mt-1 text-ink-2">
            {t`Opened by ${counted(use.readers, 'learner')}.`}
            {use.explains.length > 0 && ` ${t`It explains:`} `}
            {use.explains.map(({ key, title }, place) => (
              <span key={key}>
                {place > 0 && ', '}
                <TextLink to={`/author/bank/${course}/${key}`} className="underline">
                  {title}
                </TextLink>
              </span>
            ))}
          </p>
        )}
      </section>
    </li>
  )
}

/** How those who read it did on their next question, beside what was expected of them. */
function After({ after }: { after: Schemas['AfterReadingOut'] }) {
  const { answers, right, expected, low, high } = after
  const points = signed(after.points)
  return (
    <p className="mt-1">
      {t`First tries after reading it: ${right}% right of ${answers}, ${expected}% expected. That is ${points} points, 90% between ${signed(low)} and ${signed(high)}.`}{' '}
      <span className="text-ink-2">{t`Not a fair comparison: these learners chose to read it.`}</span>
    </p>
  )
}

const signed = (points: number) => (points < 0 ? `−${-points}` : `+${points}`)

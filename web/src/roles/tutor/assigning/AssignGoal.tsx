import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { fieldClass, Input, Labelled } from '../../../ui/Field'
import { BankSearch } from '../../composing/BankSearch'
import { Wrong } from '../../composing/Pick'
import type { Giving } from './assignment'
import { StudyPicker } from './StudyPicker'

interface Props {
  course: string
  list: Schemas['ComposedListOut']
  notTaught: string[]
  giving: Giving
  problems: Record<string, string>
  onChange: (next: Partial<Giving>) => void
}

const GOALS = [
  ['target', t`Until each target is met`],
  ['ideas', t`Chosen ideas, each right first time, twice`],
  ['questions', t`A number of questions`],
] as const

/** What work that is no test wants: practice to a goal, a diagnostic, or study sections. */
export function AssignGoal(props: Props) {
  const { course, list, giving, problems, onChange } = props
  if (giving.kind === 'hand_in') return null
  if (giving.kind === 'diagnostic')
    return (
      <Labelled label={t`Of`} className="mt-4 max-w-sm">
        <select
          className={fieldClass}
          value={giving.subject}
          onChange={(event) => onChange({ subject: event.target.value })}
        >
          <option value="">{t`all subjects`}</option>
          {list.subjects.map((subject) => (
            <option key={subject.key} value={subject.key}>
              {subject.title}
            </option>
          ))}
        </select>
      </Labelled>
    )
  if (giving.kind === 'study')
    return (
      <div className="mt-4">
        <StudyPicker
          study={list.study}
          chosen={giving.sections}
          onChange={(sections) => onChange({ sections })}
        />
        <Wrong says={problems['goal.sections']} />
      </div>
    )
  return (
    <div className="mt-4">
      <fieldset>
        <legend className="sr-only">{t`The goal`}</legend>
        {GOALS.map(([kind, words]) => (
          <label key={kind} className="flex items-center gap-3 py-1">
            <input
              type="radio"
              name="goal"
              className="size-5 accent-gust"
              checked={giving.kind === kind}
              onChange={() => onChange({ kind })}
            />
            {words}
          </label>
        ))}
      </fieldset>
      {giving.kind === 'questions' && (
        <Labelled label={t`How many questions`} className="mt-3">
          <Input
            type="number"
            min={1}
            max={100}
            className="w-28"
            value={giving.questions}
            onChange={(event) =>
              onChange({ questions: Math.min(100, Math.max(1, Number(event.target.value))) })
            }
          />
        </Labelled>
      )}
      {giving.kind === 'ideas' ? <Ideas {...props} course={course} /> : <Topics {...props} />}
    </div>
  )
}

function Topics({ list, notTaught, giving, problems, onChange }: Props) {
  const { topics } = giving
  return (
    <fieldset className="mt-4">
      <legend className="text-sm text-ink-2">{t`Topics`}</legend>
      <div className="columns-[16rem] gap-x-8">
        {list.topics.map((topic) => (
          <Check
            key={topic.key}
            disabled={notTaught.includes(topic.key)}
            on={topics.includes(topic.key)}
            set={(on) =>
              onChange({
                topics: on ? [...topics, topic.key] : topics.filter((one) => one !== topic.key),
              })
            }
          >
            <span>
              {topic.title}
              {notTaught.includes(topic.key) && (
                <span className="text-sm text-ink-2"> {t`not taught yet`}</span>
              )}
            </span>
          </Check>
        ))}
      </div>
      <Wrong says={problems['goal.topics']} />
    </fieldset>
  )
}

function Ideas({ course, list, giving, problems, onChange }: Props) {
  const { families } = giving
  return (
    <>
      <ul className="mt-3 flex flex-wrap gap-2">
        {families.map((one) => (
          <li key={one.key}>
            <Button
              aria-label={t`Remove ${one.title}`}
              onClick={() => onChange({ families: families.filter(({ key }) => key !== one.key) })}
            >
              {one.title} ×
            </Button>
          </li>
        ))}
      </ul>
      <Wrong says={problems['goal.families']} />
      <BankSearch
        course={course}
        topics={list.topics}
        taken={new Set(families.map((one) => one.key))}
        takenSays={t`Chosen`}
        onAdd={(more) => onChange({ families: [...families, ...more] })}
      />
    </>
  )
}

import type { Question } from '../api/client'
import { Html } from '../ui/Html'
import type { Draft } from './draft'
import { ChoicePart } from './parts/ChoicePart'
import { TextEntryPart } from './parts/TextEntryPart'

interface Props {
  question: Question
  responses: Draft['responses']
  onChange: (part: string, value: string) => void
  fieldRef?: (node: HTMLInputElement | null) => void
}

/** A question: its prompt and one component per part kind. */
export function QuestionView({ question, responses, onChange, fieldRef }: Props) {
  const states = new Map(question.states.map((state) => [state.id, state]))
  const firstOpenField = question.parts.find(
    (part) => part.kind === 'text_entry' && states.get(part.id)?.state === 'open',
  )
  return (
    <>
      <Html html={question.prompt_html} className="prose-question" />
      <div className="flex flex-wrap gap-x-8">
        {question.parts.map((part) => {
          const state = states.get(part.id)
          if (!state) return null
          const value = responses[part.id] ?? ''
          const set = (next: string) => onChange(part.id, next)
          if (part.kind === 'choice')
            return (
              <div key={part.id} className="w-full">
                <ChoicePart
                  part={part}
                  state={state}
                  value={value}
                  onChange={set}
                  keys={question.parts.length === 1}
                />
              </div>
            )
          return (
            <TextEntryPart
              key={part.id}
              part={part}
              state={state}
              value={value}
              onChange={set}
              wrong={
                state.tries > 0 && state.state !== 'right' && value.trim() === state.answer.trim()
              }
              focusRef={part === firstOpenField ? fieldRef : undefined}
            />
          )
        })}
      </div>
    </>
  )
}

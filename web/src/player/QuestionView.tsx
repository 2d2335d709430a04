import { t } from '@lingui/core/macro'
import { type Ref, useId } from 'react'
import type { Question } from '../api/client'
import { Html } from '../ui/Html'
import type { Draft } from './draft'
import { LargeFigure } from './Figure'
import { PartView, PrintedPart } from './kinds/PartView'
import { viewOf } from './kinds/registry'
import type { Strike } from './kinds/view'
import type { ReadBacks } from './readBack'
import { Sound } from './Sound'

export type Askable = Pick<
  Question,
  'prompt_html' | 'stimulus_html' | 'figure' | 'sound' | 'parts' | 'states'
>

interface Props {
  question: Askable
  responses: Draft['responses']
  /** How what stands in a part was read, where the server was asked. */
  read?: ReadBacks
  onChange: (part: string, value: string) => void
  /** What holds the text of the question, without its parts. */
  textRef?: Ref<HTMLDivElement>
  fieldRef?: (node: HTMLInputElement | null) => void
  /** Whether digits choose here: of several questions on a page, only in one. */
  digits?: boolean
  /** Striking out choices of a part, where it is allowed. */
  strikeFor?: (part: string) => Strike
  /** Whether it is laid out for paper. */
  printed?: boolean
}

/** A question: what several share, its prompt, figure and sound, and one component per part. */
export function QuestionView({
  question,
  responses,
  read,
  onChange,
  textRef,
  fieldRef,
  digits = true,
  strikeFor,
  printed = false,
}: Props) {
  const noteId = useId()
  const states = new Map(question.states.map((state) => [state.id, state]))
  const firstOpenField = question.parts.find(
    (part) => viewOf(part).typed && states.get(part.id)?.state === 'open',
  )
  return (
    <>
      <div ref={textRef}>
        {question.stimulus_html && (
          <aside
            aria-label={t`Text for this question`}
            className="mb-5 max-w-[42rem] border-l-4 border-sun pl-4"
          >
            <Html html={question.stimulus_html} className="prose-study" />
          </aside>
        )}
        <Html html={question.prompt_html} className="prose-question" />
      </div>
      {question.figure && <LargeFigure figure={question.figure} className="mt-4 max-w-[28rem]" />}
      {question.sound && <Sound sound={question.sound} />}
      <div className="flex flex-wrap gap-x-8">
        {question.parts.map((part) => {
          const state = states.get(part.id)
          if (!state) return null
          const value = responses[part.id] ?? ''
          if (printed) return <PrintedPart key={part.id} part={part} state={state} value={value} />
          return (
            <div key={part.id} className={viewOf(part).narrow ? '' : 'w-full min-w-0'}>
              <PartView
                part={part}
                note={
                  viewOf(part).typed && state.state === 'open'
                    ? { id: `${noteId}-${part.id}`, read: read?.[part.id] }
                    : undefined
                }
                state={state}
                value={value}
                onChange={(next) => onChange(part.id, next)}
                keys={digits && question.parts.length === 1}
                fieldRef={part === firstOpenField ? fieldRef : undefined}
                strike={strikeFor?.(part.id)}
              />
            </div>
          )
        })}
      </div>
    </>
  )
}

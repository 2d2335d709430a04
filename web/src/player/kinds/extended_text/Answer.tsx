import { t } from '@lingui/core/macro'
import { lazy } from 'react'
import { Html } from '../../../ui/Html'
import { PartGroup } from '../shared/PartGroup'
import { NOT_MARKED } from '../shared/written'
import type { PartProps } from '../view'

export const loadEditor = () => import('./Editor')
const Editor = lazy(loadEditor)

/** A text in one's own words: kept, and not marked by a rule. */
export function Answer({ part, state, value, onChange, review }: PartProps<'extended_text'>) {
  const closed = state.state !== 'open'
  const name = part.label || t`In your own words`
  return (
    <PartGroup label={name} closed={closed} note={NOT_MARKED} review={review}>
      {closed ? (
        <Html
          html={state.answer_html ?? ''}
          className="prose-study min-h-14 max-w-[42rem] rounded-box border-2 border-edge bg-sheet px-4 py-3"
        />
      ) : (
        <Editor part={part} name={name} value={value} onChange={onChange} />
      )}
    </PartGroup>
  )
}

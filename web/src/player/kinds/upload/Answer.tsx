import { t } from '@lingui/core/macro'
import { PartGroup } from '../shared/PartGroup'
import { NOT_MARKED } from '../shared/written'
import type { PartProps } from '../view'

/** An answer on paper: that it was done. */
export function Answer({ part, state, value, onChange, review }: PartProps<'upload'>) {
  const closed = state.state !== 'open'
  return (
    <PartGroup label={part.label || t`On paper`} closed={closed} note={NOT_MARKED} review={review}>
      <label className="flex max-w-[42rem] items-center gap-3 rounded-box bg-sheet px-4 py-3">
        <input
          type="checkbox"
          className="size-5"
          checked={value !== ''}
          onChange={(event) => onChange(event.target.checked ? t`done on paper` : '')}
        />
        {t`I have done this on paper`}
      </label>
      {value !== '' && (
        <p className="mt-2 max-w-[42rem] rounded-box border-2 border-edge border-dashed px-4 py-3 text-ink-2">{t`Keep your pages. In a test that asks for them, you can add photographs here.`}</p>
      )}
    </PartGroup>
  )
}

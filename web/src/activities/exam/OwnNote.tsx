import { t } from '@lingui/core/macro'
import { Labelled, TextArea } from '../../ui/Field'

/** A note that a learner writes to themselves at a question. */
export const OwnNote = ({
  value,
  onChange,
}: {
  value: string
  onChange: (note: string) => void
}) => (
  <Labelled label={t`A note to yourself. Nobody marks it`} className="mt-6 max-w-[45rem]">
    <TextArea
      rows={2}
      maxLength={2000}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  </Labelled>
)

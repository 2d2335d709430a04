import { t } from '@lingui/core/macro'
import { Check } from '../../../ui/Check'
import type { Giving } from './assignment'

interface Props {
  giving: Giving
  says: string
  onChange: (next: Partial<Giving>) => void
}

/** Whether learners may try the same ideas with other numbers before the test is done. */
export function AssignMirror({ giving, says, onChange }: Props) {
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">{t`Practice with new numbers`}</legend>
      <p className="mt-1 max-w-2xl text-ink-2">{t`The same questions with new numbers, to practise. It never counts. It opens when a learner has used all attempts or the test has closed.`}</p>
      <Check
        on={giving.mirror_early}
        set={(on) => onChange({ mirror_early: on })}
      >{t`allow it as soon as the test opens`}</Check>
      {giving.mirror_early && (
        <p role="status" className="max-w-2xl text-part">
          {says}
        </p>
      )}
    </fieldset>
  )
}

import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { fieldClass, Labelled } from '../../ui/Field'
import { Bands } from '../common/Bands'
import { Wrong } from './Pick'

type Rules = Schemas['RulesData']

interface Props {
  rules: Rules
  problems: Record<string, string>
  onChange: (next: Partial<Rules>) => void
}

/** How a result is shown: out of how many, from where on it passes, and its bands. */
export function ComposeMarks({ rules, problems, onChange }: Props) {
  return (
    <fieldset className="mt-5">
      <legend className="font-semibold">{t`Marks`}</legend>
      <div className="mt-1 flex flex-wrap gap-x-6 gap-y-4">
        <Labelled label={t`Results shown out of`}>
          <input
            type="number"
            min={1}
            max={100}
            className={`${fieldClass} w-28`}
            value={rules.scale ?? 20}
            onChange={(event) => onChange({ scale: Number(event.target.value) || 0 })}
          />
          <Wrong says={problems['rules.scale']} />
        </Labelled>
        <Labelled label={t`Pass mark (%)`}>
          <input
            type="number"
            min={0}
            max={100}
            className={`${fieldClass} w-28`}
            value={rules.pass_mark ?? ''}
            onChange={(event) => onChange({ pass_mark: event.target.value || null })}
          />
          <Wrong says={problems['rules.pass_mark']} />
        </Labelled>
      </div>
      <div className="mt-4">
        <Bands bands={rules.bands ?? []} unit="%" onChange={(bands) => onChange({ bands })} />
        <Wrong says={problems['rules.bands']} />
      </div>
    </fieldset>
  )
}

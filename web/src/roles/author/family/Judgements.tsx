import { t } from '@lingui/core/macro'
import { Check } from '../../../ui/Check'
import { TextField } from '../../../ui/Field'
import { Pick, Wrong } from '../../composing/Pick'
import { useFamily } from './context'
import { type Given, textOf, typedNumber } from './json'
import { HARD } from './kinds'
import type { Workbench } from './queries'
import type { Fields } from './useDraft'

/** What an author judges of a question, and where its idea is explained. */
export function Judgements({
  data,
  sections,
  set,
}: {
  data: Fields
  sections: Workbench['sections']
  set: (name: string, value: Given) => void
}) {
  const { problemAt } = useFamily()
  const study = textOf(data.study)
  const known = sections.map(({ value, title }): [string, string] => [value, title])
  if (!sections.some(({ value }) => value === study)) known.unshift([study, study || t`None yet`])
  return (
    <section
      aria-labelledby="judged"
      className="grid grid-cols-[minmax(0,1fr)] gap-3 [&_select]:w-full"
    >
      <h2 id="judged" className="text-xl">{t`Your estimates`}</h2>
      <TextField
        label={t`Title`}
        value={textOf(data.title)}
        maxLength={60}
        onText={(text) => set('title', text)}
      />
      <Wrong says={problemAt('title')} />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3 @md:grid-cols-2">
        <Pick
          label={t`How hard it is`}
          options={HARD.map((words, i) => [String(i + 1), words])}
          value={textOf(data.difficulty)}
          problem={problemAt('difficulty')}
          onChange={(next) => set('difficulty', Number(next))}
        />
        <TextField
          label={t`Seconds it usually takes`}
          value={textOf(data.seconds)}
          inputMode="numeric"
          onText={(text) => set('seconds', typedNumber(text) ?? '')}
        />
      </div>
      <Wrong says={problemAt('seconds')} />
      <Check
        on={data.essential === true}
        set={(on) => set('essential', on)}
      >{t`Essential: nobody meets the target without it`}</Check>
      <Pick
        label={t`Where its idea is explained`}
        options={known}
        value={study}
        problem={problemAt('study')}
        onChange={(next) => set('study', next)}
      />
      <TextField
        label={t`Source of what it teaches`}
        value={textOf(data.source)}
        onText={(text) => set('source', text)}
      />
      <Wrong says={problemAt('source')} />
    </section>
  )
}

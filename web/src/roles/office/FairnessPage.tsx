import { t } from '@lingui/core/macro'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Check } from '../../ui/Check'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted } from '../../ui/words'
import { Pick } from '../composing/Pick'

type Fairness = Schemas['FairnessOut']
type Side = 'one' | 'other'

/** Whether a test is harder for some groups than for others of the same standing. */
export default function FairnessPage() {
  useTitle(t`Is a test fair?`)
  const [test, setTest] = useState<number | null>(null)
  const [sides, setSides] = useState<Record<Side, number[]>>({ one: [], other: [] })
  const wanted = { test, ...sides }
  const query = useQuery({
    queryKey: keys.fairness(wanted),
    queryFn: () => call(api.GET('/api/office/fairness', { params: { query: wanted } })),
    placeholderData: keepPreviousData,
  })
  const set = (side: Side, id: number, on: boolean) =>
    setSides({ ...sides, [side]: on ? [...sides[side], id] : sides[side].filter((n) => n !== id) })
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Is a test fair?`}</h1>
      <p className="mt-1 max-w-3xl text-ink-2">{t`Learners with the same result in the whole test are compared question by question. A question that is harder for one side may ask for something beside its topic.`}</p>
      <Loaded query={query} what={t`the tests`}>
        {(found) => (
          <>
            <div className="mt-5 flex">
              <Pick
                label={t`Test`}
                options={[
                  ['', t`choose`],
                  ...found.tests.map((one): [string, string] => [String(one.id), one.title]),
                ]}
                value={String(test ?? '')}
                onChange={(next) => setTest(next ? Number(next) : null)}
              />
            </div>
            <div className="mt-4 grid gap-6 @3xl:grid-cols-2">
              {(['one', 'other'] as const).map((side) => (
                <fieldset key={side}>
                  <legend className="font-semibold">
                    {side === 'one' ? t`These groups` : t`compared with these`}
                  </legend>
                  {found.groups.map((one) => (
                    <Check
                      key={one.id}
                      on={sides[side].includes(one.id)}
                      set={(on) => set(side, one.id, on)}
                    >
                      {one.title}
                    </Check>
                  ))}
                </fieldset>
              ))}
            </div>
            <Found found={found} />
          </>
        )}
      </Loaded>
      <Problem error={query.error} />
    </main>
  )
}

const SIZES = { A: t`none or slight`, B: t`moderate`, C: t`large` }

function Found({ found }: { found: Fairness }) {
  const { one, other, needed, questions } = found
  if (one === null || other === null) return null
  if (questions.length === 0)
    return (
      <p role="status" className="mt-5 font-semibold">
        {t`Too few to tell: ${counted(one, 'learner')} and ${counted(other, 'learner')}. ${needed} are needed on each side.`}
      </p>
    )
  return (
    <table className="mt-5 w-full border-collapse text-left">
      <thead>
        <tr className="border-edge border-b-2 text-ink-2 text-sm">
          <th scope="col" className="py-1.5 font-normal">{t`Question`}</th>
          <th scope="col" className="py-1.5 font-normal">{t`Difference`}</th>
          <th scope="col" className="py-1.5 font-normal">{t`What to ask`}</th>
        </tr>
      </thead>
      <tbody>
        {questions.map((row) => (
          <tr key={row.title} className="border-line border-b">
            <th scope="row" className="py-2 font-normal">
              {row.title}
            </th>
            <td className="py-2">{row.size === null ? '' : SIZES[row.size]}</td>
            <td className={row.harder ? 'py-2 text-part' : 'py-2 text-ink-2'}>
              {row.harder && (row.harder === 'one' ? t`For these groups: ` : t`For the others: `)}
              {row.says}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

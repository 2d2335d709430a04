import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { wrongAnswersQuery } from './queries'

type Slip = Schemas['SlipOut']

/** What learners answered wrongly, and the slips behind what nobody foresaw. */
export function WrongAnswers({
  course,
  family,
  onForesee,
}: {
  course: string
  family: string
  onForesee: (formula: string) => void
}) {
  const query = useQuery(wrongAnswersQuery(course, family))
  return (
    <Loaded query={query} what={t`wrong answers`}>
      {({ answers, wrong, foreseen, slips, said }) => (
        <>
          <p className="text-ink-2">
            {t`${answers} first answers, ${wrong} of them wrong; ${foreseen} of these were expected.`}
          </p>
          {slips.map((slip) => (
            <SlipLine key={slip.formula} slip={slip} onForesee={() => onForesee(slip.formula)} />
          ))}
          {slips.length === 0 && wrong > 0 && (
            <p className="mt-2">{t`No single mistake explains the rest better than chance.`}</p>
          )}
          {said.length > 0 && <Said said={said} />}
        </>
      )}
    </Loaded>
  )
}

function SlipLine({ slip, onForesee }: { slip: Slip; onForesee: () => void }) {
  return (
    <div className="mt-3 rounded-box bg-part-soft p-3">
      <p className="font-mono">{slip.formula}</p>
      {slip.how && <p>{slip.how}</p>}
      <p className="text-sm text-ink-2">
        {t`Explains ${slip.answers} of ${slip.of} unexpected wrong answers, from ${slip.learners} learners on ${slip.versions} versions.`}
        {slip.fails.length > 0 && ` ${t`It would be right on ${slip.fails.length} versions.`}`}
        {slip.also.length > 0 && ` ${t`These explain about as much: ${slip.also.join('; ')}.`}`}
      </p>
      <p className="mt-1">
        <Button onClick={onForesee}>{t`Expect this answer`}</Button>
      </p>
    </div>
  )
}

function Said({ said }: { said: Schemas['SaidOut'][] }) {
  return (
    <table className="mt-3 text-left tabular-nums">
      <caption className="text-left text-sm text-ink-2">
        {t`Wrong answers given more than once, by level of the learners. If many in the upper third gave one, check the key.`}
      </caption>
      <thead className="text-sm text-ink-2">
        <tr>
          <th scope="col" className="py-1 pr-4 font-normal">{t`answer`}</th>
          <th scope="col" className="py-1 pr-4 font-normal">{t`lower third`}</th>
          <th scope="col" className="py-1 pr-4 font-normal">{t`middle`}</th>
          <th scope="col" className="py-1 pr-4 font-normal">{t`upper third`}</th>
        </tr>
      </thead>
      <tbody>
        {said.map((one) => (
          <tr key={one.answer} className="border-t border-line">
            <th scope="row" className="py-1 pr-4 font-semibold">
              {one.answer}
              {one.close_to && (
                <span className="block text-sm font-normal text-part">
                  {t`close to “${one.close_to}”`}
                </span>
              )}
            </th>
            <td className="py-1 pr-4">{one.lower}</td>
            <td className="py-1 pr-4">{one.middle}</td>
            <td className="py-1 pr-4">{one.upper}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

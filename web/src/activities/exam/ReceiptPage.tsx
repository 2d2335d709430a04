import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import { Button, buttonClass } from '../../ui/Button'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { clockTime, counted, longDay } from '../../ui/words'
import { receiptQuery } from './queries'

/** What a learner has to show for having handed in. */
export default function ReceiptPage() {
  const id = Number(useParams().id)
  const to = useTo()
  const query = useQuery(receiptQuery(useCourse(), id))
  useTitle(t`Receipt`)
  return (
    <Loaded query={query} what={t`the receipt`}>
      {(receipt) => {
        const facts: [string, string][] = [
          [t`Test`, receipt.test],
          [t`Learner`, receipt.learner],
          [t`Attempt`, String(receipt.attempt_number)],
          [t`Handed in`, `${longDay(receipt.handed_in)}, ${clockTime(receipt.handed_in)}`],
          [t`How`, receipt.why_over],
          [t`Answered`, t`${receipt.answered} of ${receipt.questions} questions`],
          ...(receipt.unreadable > 0
            ? [
                [
                  t`Can’t be read`,
                  t`${counted(receipt.unreadable, 'question')}. Your tutor will mark it`,
                ] satisfies [string, string],
              ]
            : []),
          [t`Check number`, receipt.number],
        ]
        return (
          <main id="main" className="max-w-2xl px-5 py-8 @5xl:px-8">
            <h1 className="text-3xl">{t`Handed in`}</h1>
            <p className="mt-1.5 text-ink-2">
              {receipt.rehearsal
                ? t`This is how a receipt looks. Your tutor can look up the check number of a real test.`
                : t`This is your receipt. Your tutor can look up the check number.`}
            </p>
            <dl className="mt-5 grid grid-cols-[auto_1fr] gap-x-8 gap-y-2 rounded-box bg-sheet p-6">
              {facts.map(([what, says]) => (
                <div key={what} className="contents">
                  <dt className="text-ink-2">{what}</dt>
                  <dd className="font-semibold tabular-nums">{says}</dd>
                </div>
              ))}
            </dl>
            {receipt.pages === 'open' && (
              <p className="mt-5 rounded-box bg-part-soft p-4 font-semibold text-part print:hidden">
                {receipt.pages_needed
                  ? t`You still need to add your pages.`
                  : t`You can add pages of paper now.`}
              </p>
            )}
            <div className="mt-5 flex flex-wrap gap-3 print:hidden">
              {receipt.pages !== 'not_wanted' && (
                <Link
                  to={to(`/tests/attempts/${id}/pages`)}
                  className={buttonClass(receipt.pages === 'open' ? 'strong' : 'plain')}
                >
                  {receipt.pages === 'open' ? t`Add your pages` : t`Your pages`}
                </Link>
              )}
              <Link
                to={to(`/tests/attempts/${id}/results`)}
                className={buttonClass(receipt.pages === 'open' ? 'plain' : 'strong')}
              >{t`See the results`}</Link>
              <Button onClick={() => window.print()}>{t`Print`}</Button>
              {receipt.rehearsal && (
                <Link
                  to={to(`/tests/${receipt.ref}`)}
                  className={buttonClass('plain')}
                >{t`Rehearse again`}</Link>
              )}
              <Link to={to('/tests')} className={buttonClass('quiet')}>{t`All tests`}</Link>
            </div>
          </main>
        )
      }}
    </Loaded>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { counted, moment } from '../../ui/words'
import { type Regrades, regradesQuery, undoRegrade } from './queries'

type Regrade = Regrades['regrades'][number]

/** The questions of a test by how well they went, and what of it was regraded. */
export default function RegradesPage() {
  const group = Number(useParams().group)
  const assignment = Number(useParams().assignment)
  const query = useQuery(regradesQuery(group, assignment))
  useTitle(t`Regrade a question`)
  return (
    <Loaded query={query} what={t`the questions`}>
      {(found) => {
        const at = `/tutor/work/${group}/${assignment}`
        const hardest = [...found.questions].sort((a, b) => (a.mean ?? 101) - (b.mean ?? 101))
        return (
          <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
            <TextLink to={at}>{found.test}</TextLink>
            <h1 className="mt-1 text-3xl">{t`Regrade a question`}</h1>
            <p className="mt-1.5 max-w-2xl text-ink-2">{t`Use this when the key was wrong, the question was faulty, or another answer is right too. You see every change before it is made. Learners are told, and you can undo it.`}</p>
            {found.regrades.length > 0 && (
              <section aria-labelledby="done" className="mt-6">
                <h2 id="done" className="text-xl">{t`Earlier regrades`}</h2>
                <ul className="mt-1">
                  {found.regrades.map((one) => (
                    <Line key={one.id} group={group} assignment={assignment} regrade={one} />
                  ))}
                </ul>
              </section>
            )}
            <section aria-labelledby="questions" className="mt-6">
              <h2 id="questions" className="text-xl">{t`Questions, most missed first`}</h2>
              <ul className="mt-1">
                {hardest.map((one) => (
                  <li
                    key={one.family}
                    className="flex flex-wrap items-center gap-x-6 border-b border-line py-2.5"
                  >
                    <TextLink
                      to={`${at}/regrade/${one.family}`}
                      className="min-w-0 flex-1 basis-56 font-semibold"
                    >
                      {one.title}
                    </TextLink>
                    <span className="tabular-nums">
                      {one.mean === null ? t`not marked yet` : t`${one.mean}% of its points`}
                    </span>
                    <span className="w-32 text-right text-ink-2">
                      {counted(one.attempts, 'attempt')}
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          </main>
        )
      }}
    </Loaded>
  )
}

const STATES: Record<Regrade['state'], string> = {
  waiting: t`waiting`,
  applying: t`being applied`,
  applied: 'applied',
  undoing: t`being undone`,
  undone: t`undone`,
}

function Line({
  group,
  assignment,
  regrade,
}: {
  group: number
  assignment: number
  regrade: Regrade
}) {
  const cache = useQueryClient()
  const undo = useMutation({
    mutationFn: () => undoRegrade(group, assignment, regrade.id),
    onSuccess: (next) => cache.setQueryData(keys.regrades(group, assignment), next),
  })
  const going = !['applied', 'undone'].includes(regrade.state)
  return (
    <li className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-line py-2.5">
      <div className="min-w-0 flex-1 basis-72">
        <p>
          <span className="font-semibold">{regrade.title}.</span> {regrade.says}
        </p>
        <p className="text-ink-2">
          {regrade.why} {regrade.by}, {moment(regrade.at)}
        </p>
      </div>
      <p aria-live="polite" className="tabular-nums">
        {STATES[regrade.state]}
        {going && t`, ${regrade.done} of ${counted(regrade.of, 'attempt')}`}
        {regrade.undone_by && regrade.state === 'undone' && t` by ${regrade.undone_by}`}
      </p>
      {regrade.state === 'applied' && (
        <Button
          kind="quiet"
          aria-label={t`Undo: ${regrade.title}. ${regrade.says}`}
          disabled={undo.isPending}
          onClick={() => undo.mutate()}
        >{t`Undo`}</Button>
      )}
      <Problem error={undo.error} />
    </li>
  )
}

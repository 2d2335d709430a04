import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { useNavigate, useParams } from 'react-router'
import { useKept } from '../../account/useKept'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Labelled, Problem, TextArea } from '../../ui/Field'
import { KeptNote } from '../../ui/KeptNote'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted } from '../../ui/words'
import { StopAsking } from '../composing/StopAsking'
import { Asked } from './Asked'
import { choiceQuery, previewQuery, regrade, type Way } from './queries'

type Choice = Schemas['RegradeChoiceOut']

/** One question: what is to count, every attempt that changes, and why. */
export default function RegradePage() {
  const { family = '', ...params } = useParams()
  const group = Number(params.group)
  const assignment = Number(params.assignment)
  const query = useQuery(choiceQuery(group, assignment, family))
  useTitle(t`Regrade a question`)
  return (
    <Loaded query={query} what={t`the question`}>
      {(choice) => <Regrading group={group} assignment={assignment} choice={choice} />}
    </Loaded>
  )
}

const BLANK: Way = { kind: 'drop', part: '', canonical: '', seed: null }

function Regrading(props: { group: number; assignment: number; choice: Choice }) {
  const { group, assignment, choice } = props
  const place = `regrade:${assignment}:${choice.family}`
  const kept = useKept<{ way: Way | null; why: string }>(place, () => ({ way: null, why: '' }))
  const { way, why } = kept.value
  const preview = useQuery(previewQuery(group, assignment, choice.family, way)).data
  const cache = useQueryClient()
  const navigate = useNavigate()
  const back = `/tutor/work/${group}/${assignment}/regrade`
  const apply = useMutation({
    mutationFn: () => regrade(group, assignment, choice.family, { way: way ?? BLANK, why }),
    onSuccess: (next) => {
      kept.saved(kept.value)
      cache.setQueryData(keys.regrades(group, assignment), next)
      navigate(back)
    },
  })
  const same = (one: Way) => JSON.stringify(one) === JSON.stringify(way)
  const option = (one: Way, words: ReactNode) => (
    <label key={JSON.stringify(one)} className="flex items-start gap-3 py-1">
      <input
        type="radio"
        name="way"
        className="mt-1 size-5 shrink-0 accent-gust"
        checked={same(one)}
        onChange={() => kept.set({ way: one, why })}
      />
      <span>{words}</span>
    </label>
  )
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <TextLink to={back}>{t`Regrade a question`}</TextLink>
      <h1 className="mt-1 text-3xl">{choice.title}</h1>
      <KeptNote restored={kept.restored} onDiscard={kept.discard} />
      <Asked choice={choice} />
      <fieldset className="mt-5">
        <legend className="font-heading text-xl font-semibold">{t`How to mark it`}</legend>
        {choice.mended &&
          option({ ...BLANK, kind: 'again' }, t`Mark it again with the corrected key`)}
        {choice.acceptable.map((one) =>
          option(
            { kind: 'accept', part: one.part, canonical: one.canonical, seed: one.seed },
            <>
              {t`Accept “${one.given}” too`}
              <span className="text-ink-2">
                {one.label && ` (${one.label})`}
                {t`, answered by ${counted(one.learners, 'learner')}`}
              </span>
            </>,
          ),
        )}
        {option({ ...BLANK, kind: 'full' }, t`Full marks for everyone`)}
        {option(
          { ...BLANK, kind: 'drop' },
          t`Drop it: it counts for nobody, and the test has fewer points`,
        )}
      </fieldset>
      {preview && <Preview preview={preview} />}
      <Labelled label={t`Reason (learners will read it)`} className="mt-5 max-w-2xl">
        <TextArea
          rows={2}
          maxLength={400}
          value={why}
          onChange={(event) => kept.set({ way, why: event.target.value })}
        />
      </Labelled>
      <Problem error={apply.error} />
      <Button
        kind="strong"
        className="mt-4"
        disabled={
          !preview || preview.changed.length === 0 || why.trim().length < 3 || apply.isPending
        }
        onClick={() => apply.mutate()}
      >
        {preview && preview.changed.length > 0
          ? t`Change ${counted(preview.changed.length, 'attempt')}`
          : t`Change attempts`}
      </Button>
      <div className="mt-4">
        <StopAsking course={choice.course} family={choice.family} />
      </div>
    </main>
  )
}

function Preview({ preview }: { preview: Schemas['RegradePreviewOut'] }) {
  return (
    <section aria-label={t`What would change`} className="mt-5" aria-live="polite">
      <h2 className="text-xl">
        {preview.changed.length === 0
          ? t`Nothing would change`
          : t`${capital(counted(preview.changed.length, 'attempt'))} of ${preview.attempts} would change`}
      </h2>
      <p className="text-ink-2">{t`Mean now ${preview.mean_before}, then ${preview.mean_after}.`}</p>
      {preview.changed.length > 0 && (
        <table className="mt-2 w-full max-w-2xl text-left tabular-nums">
          <thead className="text-sm text-ink-2">
            <tr>
              <th scope="col" className="py-1 font-normal">{t`Learner`}</th>
              <th scope="col" className="py-1 font-normal">{t`Before`}</th>
              <th scope="col" className="py-1 font-normal">{t`After`}</th>
            </tr>
          </thead>
          <tbody>
            {preview.changed.map((line) => (
              <tr key={line.attempt} className="border-t border-line">
                <th scope="row" className="py-1.5 font-normal">
                  {line.name}
                </th>
                <td>
                  {line.before}, {line.before_per_cent}
                </td>
                <td>
                  {line.after}, {line.after_per_cent}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}

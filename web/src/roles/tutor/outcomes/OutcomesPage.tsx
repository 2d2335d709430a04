import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import { Button, buttonClass } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { TextField } from '../../../ui/Field'
import { FilterRow, filtered } from '../../../ui/FilterRow'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted } from '../../../ui/words'
import { OutcomesTable } from './OutcomesTable'
import { type By, filtersFor, listed, type Outcomes } from './outcomes'
import { outcomesQuery } from './queries'
import { Tenths } from './Tenths'

/** Everybody's results of a test: who, question by question, while they sit it and after. */
export default function OutcomesPage() {
  const group = Number(useParams().group)
  const assignment = Number(useParams().assignment)
  const [together, setTogether] = useState(false)
  const query = useQuery(outcomesQuery(group, assignment, together))
  useTitle(query.data ? t`Results of ${query.data.test}` : t`Results`)
  return (
    <Loaded query={query} what={t`the results`}>
      {(found) => (
        <Everybody
          group={group}
          assignment={assignment}
          found={found}
          together={together}
          onTogether={setTogether}
        />
      )}
    </Loaded>
  )
}

interface Props {
  group: number
  assignment: number
  found: Outcomes
  together: boolean
  onTogether: (on: boolean) => void
}

function Everybody({ group, assignment, found, together, onTogether }: Props) {
  const one = Number(useSearchParams()[0].get('learner'))
  const [words, setWords] = useState(
    () => found.learners.find((each) => each.learner === one)?.name ?? '',
  )
  const [chosen, setChosen] = useState('all')
  const [by, setBy] = useState<By>('name')
  const [down, setDown] = useState(false)
  const filters = filtersFor(found.pass_mark)
  const shown = listed(filtered(found.learners, filters, chosen), words, by, down)
  const sort = (next: By) => {
    setDown(next === by ? !down : next !== 'name')
    setBy(next)
  }
  const file = (kind: string) =>
    `/api/groups/${group}/tests/${assignment}/outcomes/file?kind=${kind}&together=${found.together}`
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to={`/tutor/work/${group}/${assignment}`}>{found.test}</TextLink>
      </p>
      <h1 className="mt-0.5 text-3xl">{found.headline}</h1>
      <p className="mt-1 text-ink-2">{found.group}</p>
      {found.shared.length > 0 && (
        <Check on={together} set={onTogether}>
          {t`with ${found.shared.join(', ')}`}
        </Check>
      )}
      <div className="mt-4 flex flex-wrap gap-3 print:hidden">
        {found.can_analyse && (
          <TextLink
            to={`/tutor/work/${group}/${assignment}/analysis`}
            className={buttonClass('strong')}
          >{t`What the test says about itself`}</TextLink>
        )}
        <TextLink
          to={`/tutor/work/${group}/${assignment}/marking`}
          className={buttonClass('plain')}
        >{t`Mark and release`}</TextLink>
        <a href={file('xlsx')} download className={buttonClass('plain')}>{t`Save as a workbook`}</a>
        <a href={file('csv')} download className={buttonClass('plain')}>{t`Save as CSV`}</a>
        <Button kind="plain" onClick={() => window.print()}>{t`Print`}</Button>
      </div>
      {found.spread && (
        <div className="mt-6 grid items-end gap-x-10 gap-y-3 @3xl:grid-cols-[22rem_minmax(0,1fr)]">
          <Tenths tenths={found.spread.tenths} passMark={found.pass_mark} />
          <dl className="flex flex-wrap gap-x-8 gap-y-2">
            <Figure name={t`Results`} value={`${found.spread.count}`} />
            <Figure name={t`Mean`} value={`${found.spread.mean}%`} />
            <Figure name={t`In the middle`} value={`${found.spread.median}%`} />
            <Figure name={t`Spread (sd)`} value={`${found.spread.sd}`} />
            {found.spread.passed !== null && (
              <Figure name={t`Passed`} value={t`${found.spread.passed} of ${found.spread.count}`} />
            )}
          </dl>
        </div>
      )}
      <div className="mt-6 flex flex-wrap items-end gap-x-6 gap-y-2 print:hidden">
        <FilterRow all={found.learners} filters={filters} chosen={chosen} onChoose={setChosen} />
        <TextField label={t`Find a learner`} value={words} onText={setWords} fieldWidth="w-56" />
      </div>
      <p className="mt-2 text-ink-2" aria-live="polite">
        {counted(shown.length, 'learner')}
      </p>
      <OutcomesTable found={found} shown={shown} by={by} down={down} onSort={sort} />
      <p className="mt-3 max-w-3xl text-sm text-ink-2">{t`A mark out of ${found.scale} is of the attempt that counts. Press on an answer to look at it. Empty: the learner had another question there.`}</p>
    </main>
  )
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt className="text-sm text-ink-2">{name}</dt>
      <dd className="font-semibold tabular-nums">{value}</dd>
    </div>
  )
}

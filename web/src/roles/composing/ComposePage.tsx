import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { ChangedNote } from '../../account/ChangedNote'
import { useEdit } from '../../account/useEdit'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { FieldProblems, Input, Labelled, Problem, TextArea } from '../../ui/Field'
import { KeptNote } from '../../ui/KeptNote'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted } from '../../ui/words'
import { ComposeQuestions } from './ComposeQuestions'
import { ComposeRules } from './ComposeRules'
import { labelOf, wordsOf } from './changed'
import { Forecast } from './Forecast'
import { composedOneQuery, composedQuery, keepTest, type NewTest, testCheckQuery } from './queries'
import { newSection } from './SectionForm'

const seedOfNow = () => (crypto.getRandomValues(new Uint32Array(1))[0] ?? 1) % 1_000_000

const empty = (list: Schemas['ComposedListOut']): NewTest => ({
  title: '',
  directions: '',
  materials: '',
  composition: {
    sections: [newSection(t`All questions`)],
    seed: seedOfNow(),
    same_versions: true,
    shuffled_choices: true,
  },
  rules: { release: list.release_same } as NewTest['rules'],
})

type Composed = Schemas['ComposedOut']

const ofComposed = (from: Composed, copy: boolean): NewTest => ({
  title: copy ? t`${from.line.title}, copy`.slice(0, 120) : from.line.title,
  directions: from.directions,
  materials: from.materials,
  composition: copy ? { ...from.composition, seed: seedOfNow() } : from.composition,
  rules: from.rules,
})

/** A test composed: new, an own one to be changed, or a copy of another (`?from=`). */
export default function ComposePage({ home }: { home: string }) {
  const { course = '', test } = useParams()
  const [search] = useSearchParams()
  const from = Number(test ?? search.get('from') ?? 0)
  const list = useQuery(composedQuery(course))
  const source = useQuery({ ...composedOneQuery(course, from), enabled: from > 0 })
  useTitle(test ? t`Change a test` : t`Compose a test`)
  return (
    <Loaded query={list} what={t`the course`}>
      {(found) =>
        from > 0 ? (
          <Loaded query={source} what={t`the test`}>
            {(one) => <Composer home={home} list={found} source={one} changes={Boolean(test)} />}
          </Loaded>
        ) : (
          <Composer home={home} list={found} source={null} changes={false} />
        )
      }
    </Loaded>
  )
}

interface Props {
  home: string
  list: Schemas['ComposedListOut']
  source: Composed | null
  changes: boolean
}

function Composer({ home, list, source, changes }: Props) {
  const { course = '' } = useParams()
  const [search] = useSearchParams()
  const group = search.get('group')
  const back = group ? `/tutor/work/${group}/new` : `${home}/tests/${course}`
  const place = `compose:${course}:${source ? source.line.id : 'new'}:${changes}`
  const cache = useQueryClient()
  const navigate = useNavigate()
  const changed = changes && source ? source.line.id : null
  const [opened] = useState(() => (source ? ofComposed(source, !changes) : empty(list)))
  const edit = useEdit({
    place,
    opened,
    version: source?.version ?? '',
    save: (form, version) => keepTest(course, changed, form, version),
    stands: () => null,
    onSaved: (stored) => {
      void cache.invalidateQueries({ queryKey: keys.composed(course) })
      navigate(group ? `${back}?test=${stored.line.id}` : back)
    },
  })
  const { form: test, set: change } = edit
  const asked = useDeferredValue({ ...test, title: test.title || t`Untitled` })
  const check = useQuery(testCheckQuery(course, asked)).data
  /** Rules with the usual release of the other kind, as long as nobody chose another. */
  const retold = ({ same_versions }: NewTest['composition']): NewTest['rules'] => {
    const usual = test.composition.same_versions ? list.release_same : list.release_own
    if (JSON.stringify(test.rules.release) !== JSON.stringify(usual)) return test.rules
    return { ...test.rules, release: same_versions ? list.release_same : list.release_own }
  }
  const problems = check?.problems ?? {}
  const wrong = Object.keys(problems).length
  const ready = test.title.trim() !== '' && wrong === 0 && (check?.questions ?? 0) > 0
  return (
    <main
      id="main"
      className="grid gap-x-12 gap-y-8 px-5 py-8 @5xl:grid-cols-[minmax(0,1fr)_24rem] @5xl:px-8"
    >
      <div className="min-w-0">
        <TextLink to={back}>{group ? t`Set work` : t`Tests of ${list.course}`}</TextLink>
        <h1 className="mt-1 text-3xl">{changes ? t`Change a test` : t`Compose a test`}</h1>
        <KeptNote restored={edit.restored} onDiscard={edit.discard} />
        {changes && source?.warning && <p className="mt-2 max-w-2xl text-part">{source.warning}</p>}
        <div className="mt-5 grid max-w-2xl gap-4">
          <Labelled label={t`Title, as learners see it`}>
            <Input
              value={test.title}
              maxLength={120}
              onChange={(event) => change({ title: event.target.value })}
            />
          </Labelled>
          <Labelled label={t`Instructions (optional)`}>
            <TextArea
              rows={2}
              maxLength={4000}
              value={test.directions}
              onChange={(event) => change({ directions: event.target.value })}
            />
          </Labelled>
          <Labelled label={t`What to bring (optional)`}>
            <Input
              value={test.materials}
              maxLength={400}
              onChange={(event) => change({ materials: event.target.value })}
            />
          </Labelled>
        </div>
        <ComposeQuestions
          course={course}
          topics={list.topics}
          composition={test.composition}
          problems={problems}
          known={source?.titles ?? {}}
          working={test.rules.working === 'chosen'}
          onChange={(composition) => change({ composition, rules: retold(composition) })}
        />
        <ComposeRules
          rules={test.rules}
          problems={problems}
          onChange={(rules) => change({ rules })}
        />
      </div>
      <aside aria-label={t`Preview`} className="@5xl:sticky @5xl:top-6 @5xl:self-start">
        <h2 className="text-xl">{t`What learners will read`}</h2>
        <p className="mt-1 text-ink-2">
          {check && check.questions > 0
            ? t`${capital(counted(check.questions, 'question'))}, ${counted(check.points, 'point')}, about ${check.minutes} min.`
            : t`Add questions, and you’ll see a summary here.`}
        </p>
        <dl className="mt-3 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4">
          {check?.lines.map((line) => (
            <div
              key={line.about + line.says}
              className="col-span-2 grid grid-cols-subgrid border-b border-line py-1.5 text-[0.95rem]"
            >
              <dt className="text-ink-2">{line.about}</dt>
              <dd>{line.says}</dd>
            </div>
          ))}
        </dl>
        {home === '/tutor' && (
          <Forecast
            course={course}
            group={group ? Number(group) : null}
            test={asked}
            ready={(check?.questions ?? 0) > 0}
          />
        )}
        {check && check.questions > 0 && check.warnings.length > 0 && (
          <div role="status" className="mt-4 grid gap-2 text-part">
            {check.warnings.map((warning) => (
              <p key={warning}>{warning}</p>
            ))}
          </div>
        )}
        {check && check.questions > 0 && wrong > 0 && (
          <div role="status" className="mt-4 text-wrong">
            <p>{t`Please fix:`}</p>
            <FieldProblems problems={problems} />
          </div>
        )}
        <ChangedNote conflict={edit.conflict} label={labelOf} words={wordsOf} />
        <Problem error={edit.error} />
        <Button
          kind="strong"
          className="mt-4"
          disabled={!ready || edit.isPending}
          onClick={() => edit.save()}
        >
          {group ? t`Save and continue` : t`Save test`}
        </Button>
        {!ready && (
          <p className="mt-2 text-sm text-ink-2">
            {test.title.trim() === '' ? t`Add a title.` : ''}{' '}
            {(check?.questions ?? 0) === 0 ? t`Add a question.` : ''}
          </p>
        )}
      </aside>
    </main>
  )
}

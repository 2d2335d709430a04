import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { useNavigate } from 'react-router'
import { ChangedNote } from '../../../account/ChangedNote'
import { useEdit } from '../../../account/useEdit'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { FieldProblems, Input, Labelled } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { TextLink } from '../../../ui/TextLink'
import {
  changeGiven,
  changeTask,
  giveCheckQuery,
  giveTest,
  setTask,
  taskCheckQuery,
} from '../queries'
import { AssignAsks } from './AssignAsks'
import { AssignGoal } from './AssignGoal'
import { AssignMirror } from './AssignMirror'
import { AssignPaper } from './AssignPaper'
import { SaveButton, Says } from './AssignSummary'
import { AssignDates, AssignWhom } from './AssignWhom'
import { asChange, asTask, asTest, type Giving, type Kind, ofChange } from './assignment'
import { labelOf, wordsOf } from './assignmentChanged'
import { StudyPicker } from './StudyPicker'
import { TestPicker } from './TestPicker'

/** What is changed, if anything: a test as it was given, or work as it was set. */
export interface Target {
  test?: number
  task?: number
  warning?: string
  version?: string
  /** Titles of other groups that have it too; where these aren't known, that there are some. */
  shared?: string[] | boolean
}

const KINDS: [Kind, string][] = [
  ['test', t`A test`],
  ['target', t`Practice`],
  ['diagnostic', t`A diagnostic`],
  ['study', t`Something to read`],
  ['hand_in', t`Work to hand in`],
]
const PRACTICE: Kind[] = ['target', 'ideas', 'questions']
const isKind = (kind: Kind, chosen: Kind) =>
  kind === chosen || (kind === 'target' && PRACTICE.includes(chosen))

/** Work to hand in asks for files at first. */
const ofKind = (kind: Kind, { first, asks }: Giving): Partial<Giving> => ({
  kind,
  first: kind === 'study' ? [] : first,
  asks: kind === 'hand_in' && asks.links === 'none' ? { ...asks, files: 'must' } : asks,
})

interface Props {
  group: Schemas['GroupOut']
  list: Schemas['ComposedListOut']
  first: Giving
  target: Target
}

async function store(
  group: number,
  target: Target,
  form: Giving,
  version: string,
  together: boolean,
) {
  const test = asTest(form)
  const task = asTask(form)
  if (test && target.test !== undefined) {
    const { test: _test, also: _also, ...rest } = test
    return changeGiven(group, target.test, { ...rest, version }, together)
  }
  if (test) return giveTest(group, test)
  if (!task) return null
  if (target.task === undefined) return setTask(group, task)
  const { also: _, ...rest } = task
  return changeTask(group, target.task, { ...rest, version }, together)
}

/** Everything that is said of work before it is set, or changed. */
export function AssignForm({ group, list, first, target }: Props) {
  const place = `give:${group.id}:${target.test ?? ''}:${target.task ?? ''}:${first.kind}:${first.test ?? ''}`
  const [opened] = useState(first)
  const [together, setTogether] = useState(true)
  const edit = useEdit({
    place,
    opened,
    version: target.version ?? '',
    sent: asChange,
    formed: ofChange,
    whole: ['goal'],
    save: (form, version) => store(group.id, target, form, version, together),
    stands: () => null,
    onSaved: () => {
      void cache.invalidateQueries({ queryKey: keys.group(group.id) })
      navigate(`/tutor/work/${group.id}`)
    },
  })
  const { form: giving, set: change } = edit
  const cache = useQueryClient()
  const navigate = useNavigate()
  const test = asTest(giving)
  const task = asTask(giving)
  const nobody = giving.learners?.length === 0
  const testCheck = useQuery(giveCheckQuery(group.id, useDeferredValue(nobody ? null : test)))
  const taskCheck = useQuery(taskCheckQuery(group.id, useDeferredValue(nobody ? null : task)))
  const check = giving.kind === 'test' ? test && testCheck.data : task && taskCheck.data
  const changes = target.test !== undefined || target.task !== undefined
  const problems = check?.problems ?? {}
  const notTaught = group.topics.filter((topic) => !topic.taught).map((topic) => topic.key)
  const titles = new Map(list.tests.map((one) => [one.id, one.title]))
  return (
    <main
      id="main"
      className="grid gap-x-12 gap-y-8 px-5 py-8 @5xl:grid-cols-[minmax(0,1fr)_22rem] @5xl:px-8"
    >
      <div className="min-w-0">
        <TextLink to={`/tutor/work/${group.id}`}>{t`Work of ${group.title}`}</TextLink>
        <h1 className="mt-1 text-3xl">{changes ? t`Change ${first.title}` : t`Set work`}</h1>
        <KeptNote restored={edit.restored} onDiscard={edit.discard} />
        {target.warning && <p className="mt-2 max-w-2xl text-part">{target.warning}</p>}
        {!changes && (
          <fieldset className="mt-5 flex flex-wrap gap-2">
            <legend className="sr-only">{t`What to set`}</legend>
            {KINDS.map(([kind, words]) => (
              <Button
                key={kind}
                kind={isKind(kind, giving.kind) ? 'strong' : 'plain'}
                aria-pressed={isKind(kind, giving.kind)}
                onClick={() => change(ofKind(kind, giving))}
              >
                {words}
              </Button>
            ))}
          </fieldset>
        )}
        {giving.kind === 'test' ? (
          !changes && (
            <TestPicker group={group} list={list} chosen={giving.test} onChange={change} />
          )
        ) : (
          <>
            <AssignGoal
              course={group.course}
              list={list}
              notTaught={notTaught}
              giving={giving}
              problems={problems}
              onChange={change}
            />
            <Labelled label={t`Title (optional)`} className="mt-4 max-w-xl">
              <Input
                value={giving.title}
                maxLength={120}
                placeholder={taskCheck.data?.title}
                onChange={(event) => change({ title: event.target.value })}
              />
            </Labelled>
          </>
        )}
        <AssignWhom
          group={group}
          alone={changes}
          giving={giving}
          problems={problems}
          onChange={change}
        />
        {target.shared && (
          <Check on={together} set={setTogether}>
            {target.shared === true
              ? t`change it in every group it was set for, not only here`
              : t`change it in ${target.shared.join(', ')} too`}
          </Check>
        )}
        {giving.kind !== 'test' && (
          <AssignAsks giving={giving} problems={problems} onChange={change} />
        )}
        <AssignDates giving={giving} problems={problems} onChange={change} />
        {giving.kind === 'test' && <AssignPaper giving={giving} onChange={change} />}
        {giving.kind === 'test' && testCheck.data?.mirror_says && (
          <AssignMirror giving={giving} says={testCheck.data.mirror_says} onChange={change} />
        )}
        {giving.kind !== 'study' && (
          <details className="mt-8" open={first.first.length > 0}>
            <summary className="cursor-pointer font-heading text-xl font-semibold">{t`Study first (optional)`}</summary>
            <StudyPicker
              study={list.study}
              chosen={giving.first}
              onChange={(sections) => change({ first: sections })}
            />
          </details>
        )}
      </div>
      <aside aria-label={t`Preview`} className="@5xl:sticky @5xl:top-6 @5xl:self-start">
        <h2 className="text-xl">{t`Preview`}</h2>
        <Says giving={giving} check={testCheck.data} task={taskCheck.data} titles={titles} />
        {Object.keys(problems).length > 0 && (
          <div role="status" className="mt-3 text-wrong">
            <p>{t`Please fix:`}</p>
            <FieldProblems problems={problems} />
          </div>
        )}
        <ChangedNote conflict={edit.conflict} label={labelOf} words={wordsOf(group, list)} />
        <SaveButton
          save={edit}
          ready={Boolean(check) && !nobody && Object.keys(problems).length === 0}
          words={changes ? t`Change it` : t`Set work`}
        />
      </aside>
    </main>
  )
}

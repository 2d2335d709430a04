import {
  type UseMutationResult,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, buttonClass } from '../../ui/Button'
import { fieldClass, Input, Labelled, Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted } from '../../ui/words'
import { composedQuery } from '../composing/queries'
import { GiveGoal } from './GiveGoal'
import { GivePaper } from './GivePaper'
import { GiveDates, GiveWhom } from './GiveWhom'
import { asTask, asTest, type Giving, type Kind, nothingYet, ofTask, ofTest } from './giving'
import {
  changeGiven,
  changeTask,
  giveCheckQuery,
  givenQuery,
  giveTest,
  groupQuery,
  groupTasksQuery,
  setTask,
  taskCheckQuery,
} from './queries'
import { StudyPicker } from './StudyPicker'

type Group = Schemas['GroupOut']

/** What is changed, if anything: a test as it was given, or work as it was set. */
interface Target {
  test?: number
  task?: number
  warning?: string
}

/** Work set for a group or some of it: a test, practice to a goal, a diagnostic, reading. */
export default function GivePage() {
  const group = useQuery(groupQuery(Number(useParams().group)))
  useTitle('Set work')
  return (
    <Loaded query={group} what="the group">
      {(found) => <InGroup group={found} />}
    </Loaded>
  )
}

function InGroup({ group }: { group: Group }) {
  const { assignment, task } = useParams()
  const [search] = useSearchParams()
  const list = useQuery(composedQuery(group.course))
  const given = useQuery({
    ...givenQuery(group.id, Number(assignment)),
    enabled: assignment !== undefined,
  })
  const copied = task ?? search.get('task')
  const tasks = useQuery({ ...groupTasksQuery(group.id), enabled: copied !== null })
  const wanted = search.get('test')
  if (assignment)
    return (
      <Loaded query={given} what="how it was given">
        {(row) => (
          <Loaded query={list} what="the tests">
            {(found) => (
              <Giver
                group={group}
                list={found}
                first={ofTest(row)}
                target={{ test: row.id, warning: row.warning }}
              />
            )}
          </Loaded>
        )}
      </Loaded>
    )
  if (copied)
    return (
      <Loaded query={tasks} what="the work">
        {(rows) => (
          <Loaded query={list} what="the course">
            {(found) => {
              const row = rows.tasks.find((one) => one.id === Number(copied))
              return (
                <Giver
                  group={group}
                  list={found}
                  first={row ? ofTask(row, !task) : nothingYet(null)}
                  target={task && row ? { task: row.id } : {}}
                />
              )
            }}
          </Loaded>
        )}
      </Loaded>
    )
  return (
    <Loaded query={list} what="the tests">
      {(found) => (
        <Giver
          group={group}
          list={found}
          first={nothingYet(wanted ? Number(wanted) : null)}
          target={{}}
        />
      )}
    </Loaded>
  )
}

const KINDS: [Kind, string][] = [
  ['test', 'A test'],
  ['target', 'Practice'],
  ['diagnostic', 'A diagnostic'],
  ['study', 'Something to read'],
]
const PRACTICE: Kind[] = ['target', 'ideas', 'questions']
const isKind = (kind: Kind, chosen: Kind) =>
  kind === chosen || (kind === 'target' && PRACTICE.includes(chosen))

interface GiverProps {
  group: Group
  list: Schemas['ComposedListOut']
  first: Giving
  target: Target
}

function Giver({ group, list, first, target }: GiverProps) {
  const [giving, setNow] = useState(first)
  const cache = useQueryClient()
  const navigate = useNavigate()
  const test = asTest(giving)
  const task = asTask(giving)
  const nobody = giving.learners?.length === 0
  const testCheck = useQuery(giveCheckQuery(group.id, useDeferredValue(nobody ? null : test)))
  const taskCheck = useQuery(taskCheckQuery(group.id, useDeferredValue(nobody ? null : task)))
  const check = giving.kind === 'test' ? test && testCheck.data : task && taskCheck.data
  const changes = target.test !== undefined || target.task !== undefined
  const save = useMutation({
    mutationFn: async (): Promise<unknown> => {
      if (test && target.test !== undefined) {
        const { test: _, ...rest } = test
        return changeGiven(group.id, target.test, rest)
      }
      if (test) return giveTest(group.id, test)
      if (!task) return undefined
      return target.task === undefined
        ? setTask(group.id, task)
        : changeTask(group.id, target.task, task)
    },
    onSuccess: () => {
      void cache.invalidateQueries({ queryKey: keys.group(group.id) })
      navigate(`/tutor/work/${group.id}`)
    },
  })
  const change = (next: Partial<Giving>) => {
    save.reset()
    setNow({ ...giving, ...next })
  }
  const problems = check?.problems ?? {}
  const notTaught = group.topics.filter((topic) => !topic.taught).map((topic) => topic.key)
  const titles = new Map(list.tests.map((one) => [one.id, one.title]))
  return (
    <main
      id="main"
      className="grid gap-x-12 gap-y-8 px-5 py-8 @5xl:grid-cols-[minmax(0,1fr)_22rem] @5xl:px-8"
    >
      <div className="min-w-0">
        <Link to={`/tutor/work/${group.id}`} className="text-gust hover:underline">
          Work of {group.title}
        </Link>
        <h1 className="mt-1 text-3xl">{changes ? `Change ${first.title}` : 'Set work'}</h1>
        {target.warning && <p className="mt-2 max-w-2xl text-part">{target.warning}</p>}
        {!changes && (
          <fieldset className="mt-5 flex flex-wrap gap-2">
            <legend className="sr-only">What to set</legend>
            {KINDS.map(([kind, words]) => (
              <Button
                key={kind}
                kind={isKind(kind, giving.kind) ? 'strong' : 'plain'}
                aria-pressed={isKind(kind, giving.kind)}
                onClick={() => change({ kind, first: kind === 'study' ? [] : giving.first })}
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
            <GiveGoal
              course={group.course}
              list={list}
              notTaught={notTaught}
              giving={giving}
              problems={problems}
              onChange={change}
            />
            <Labelled label="Title, if it wants another" className="mt-4 max-w-xl">
              <Input
                value={giving.title}
                maxLength={120}
                placeholder={taskCheck.data?.title}
                onChange={(event) => change({ title: event.target.value })}
              />
            </Labelled>
          </>
        )}
        <GiveWhom members={group.learners} giving={giving} problems={problems} onChange={change} />
        <GiveDates giving={giving} problems={problems} onChange={change} />
        {giving.kind === 'test' && <GivePaper giving={giving} onChange={change} />}
        {giving.kind !== 'study' && (
          <details className="mt-8" open={first.first.length > 0}>
            <summary className="cursor-pointer font-heading text-xl font-semibold">
              To study first, if anything
            </summary>
            <StudyPicker
              study={list.study}
              chosen={giving.first}
              onChange={(sections) => change({ first: sections })}
            />
          </details>
        )}
      </div>
      <aside aria-label="What it will be" className="@5xl:sticky @5xl:top-6 @5xl:self-start">
        <h2 className="text-xl">What it will be</h2>
        <Says giving={giving} check={testCheck.data} task={taskCheck.data} titles={titles} />
        {Object.keys(problems).length > 0 && (
          <p role="status" className="mt-3 text-wrong">
            {counted(Object.keys(problems).length, 'thing')} cannot be like this; each is marked
            where it stands.
          </p>
        )}
        <SaveButton
          save={save}
          ready={Boolean(check) && !nobody && Object.keys(problems).length === 0}
          words={changes ? 'Change it' : 'Set it'}
        />
      </aside>
    </main>
  )
}

function SaveButton(props: {
  save: UseMutationResult<unknown, Error, void>
  ready: boolean
  words: string
}) {
  return (
    <>
      <Problem error={props.save.error} />
      <Button
        kind="strong"
        className="mt-4"
        disabled={!props.ready || props.save.isPending}
        onClick={() => props.save.mutate()}
      >
        {props.words}
      </Button>
    </>
  )
}

function Says({
  giving,
  check,
  task,
  titles,
}: {
  giving: Giving
  check: Schemas['GiveCheckOut'] | undefined
  task: Schemas['TaskCheckOut'] | undefined
  titles: Map<number, string>
}) {
  if (giving.kind === 'test') {
    if (giving.test === null || !check)
      return <p className="mt-1 text-ink-2">Choose a test, and this says what it will take.</p>
    return (
      <p className="mt-1">
        {titles.get(giving.test)}, for {counted(check.learners, 'learner')}. It takes about{' '}
        {check.minutes} min, {check.says}.
      </p>
    )
  }
  if (!asTask(giving) || !task)
    return <p className="mt-1 text-ink-2">Choose what it is about, and this says what it takes.</p>
  return (
    <p className="mt-1">
      {task.goal} For {counted(task.learners, 'learner')}
      {task.minutes > 0 &&
        `: about ${task.minutes} min at their own pace${task.most > task.minutes ? `, ${task.most} for who needs longest` : ''}`}
      .
    </p>
  )
}

function TestPicker({
  group,
  list,
  chosen,
  onChange,
}: {
  group: Group
  list: Schemas['ComposedListOut']
  chosen: number | null
  onChange: (next: Partial<Giving>) => void
}) {
  return (
    <div className="mt-4 flex flex-wrap items-end gap-3">
      <Labelled label="Which" className="min-w-60 flex-1">
        <select
          className={fieldClass}
          value={chosen ?? ''}
          onChange={(event) =>
            onChange({ test: event.target.value ? Number(event.target.value) : null })
          }
        >
          <option value="">choose</option>
          {list.tests.map((one) => (
            <option key={one.id} value={one.id}>
              {one.title} ({counted(one.questions, 'question')}, {one.minutes} min)
            </option>
          ))}
        </select>
      </Labelled>
      <Link
        to={`/tutor/tests/${group.course}/new?group=${group.id}`}
        className={buttonClass('plain')}
      >
        Compose a new one
      </Link>
      {chosen !== null && (
        <Link
          to={`/tutor/tests/${group.course}/new?group=${group.id}&from=${chosen}`}
          className={buttonClass('quiet')}
        >
          Copy and change it
        </Link>
      )}
    </div>
  )
}

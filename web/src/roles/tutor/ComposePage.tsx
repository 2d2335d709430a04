import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Input, Labelled, Problem, TextArea } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted } from '../../ui/words'
import { ComposePaper } from './ComposePaper'
import { ComposeQuestions } from './ComposeQuestions'
import { ComposeRules } from './ComposeRules'
import { localTime } from './localTime'
import { groupTestsQuery, type NewTest, setTest, testCheckQuery } from './queries'

const seedOfNow = () => crypto.getRandomValues(new Uint32Array(1))[0] ?? 1

const empty = (): NewTest => ({
  title: '',
  directions: '',
  materials: '',
  composition: {
    sections: [{ title: 'All questions', directions: '', entries: [], shuffled: false }],
    seed: seedOfNow() % 1_000_000,
    same_versions: true,
    shuffled_choices: true,
  },
  rules: {} as NewTest['rules'],
  pages: 'none',
  pages_minutes: 20,
})

/** A test composed, with what its rules mean in words beside it, and given to the group. */
export default function ComposePage() {
  const id = Number(useParams().group)
  const query = useQuery(groupTestsQuery(id))
  useTitle('Set a test')
  return (
    <Loaded query={query} what="the group">
      {(group) => <Composer id={id} group={group} />}
    </Loaded>
  )
}

function Composer({ id, group }: { id: number; group: Schemas['GroupTestsOut'] }) {
  const [test, setNow] = useState(empty)
  const cache = useQueryClient()
  const navigate = useNavigate()
  const asked = useDeferredValue({ ...test, title: test.title || 'Untitled' })
  const check = useQuery(testCheckQuery(id, asked)).data
  const save = useMutation({
    mutationFn: () => setTest(id, test),
    onSuccess: (next) => {
      cache.setQueryData(keys.groupTests(id), next)
      navigate(`/tutor/work/${id}`)
    },
  })
  const change = (next: Partial<NewTest>) => {
    save.reset()
    setNow({ ...test, ...next })
  }
  const problems = check?.problems ?? {}
  const wrong = Object.entries(problems)
  const ready = test.title.trim() !== '' && wrong.length === 0 && (check?.questions ?? 0) > 0
  return (
    <main
      id="main"
      className="grid gap-x-12 gap-y-8 px-5 py-8 @5xl:grid-cols-[minmax(0,1fr)_24rem] @5xl:px-8"
    >
      <div className="min-w-0">
        <Link to={`/tutor/work/${id}`} className="text-gust hover:underline">
          Tests of {group.group}
        </Link>
        <h1 className="mt-1 text-3xl">Set a test</h1>
        <div className="mt-5 grid max-w-2xl gap-4">
          <Labelled label="Title, as learners see it">
            <Input
              value={test.title}
              maxLength={120}
              onChange={(event) => change({ title: event.target.value })}
            />
          </Labelled>
          <Labelled label="Directions, if there are any">
            <TextArea
              rows={2}
              maxLength={4000}
              value={test.directions}
              onChange={(event) => change({ directions: event.target.value })}
            />
          </Labelled>
          <Labelled label="What to bring, if anything">
            <Input
              value={test.materials}
              maxLength={400}
              onChange={(event) => change({ materials: event.target.value })}
            />
          </Labelled>
        </div>
        <ComposeQuestions
          group={id}
          topics={group.topics}
          composition={test.composition}
          problems={problems}
          onChange={(composition) => change({ composition })}
        />
        <Dates test={test} problems={problems} onChange={change} />
        <ComposePaper test={test} onChange={change} />
        <ComposeRules
          rules={test.rules}
          problems={problems}
          onChange={(rules) => change({ rules })}
        />
      </div>
      <aside aria-label="What it will be" className="@5xl:sticky @5xl:top-6 @5xl:self-start">
        <h2 className="text-xl">What learners will read</h2>
        <p className="mt-1 text-ink-2">
          {check && check.questions > 0
            ? `${counted(check.questions, 'question')}, ${check.points} points; such questions take about ${check.minutes} min.`
            : 'Pick questions, and this page says what the test will be.'}
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
        {check && check.questions > 0 && wrong.length > 0 && (
          <p role="status" className="mt-4 text-wrong">
            {counted(wrong.length, 'thing')} cannot be like this; each is marked where it stands.
          </p>
        )}
        <Problem error={save.error} />
        <Button
          kind="strong"
          className="mt-4"
          disabled={!ready || save.isPending}
          onClick={() => save.mutate()}
        >
          Give it to {group.group}
        </Button>
        {!ready && (
          <p className="mt-2 text-sm text-ink-2">
            {test.title.trim() === '' ? 'It wants a title.' : ''}{' '}
            {(check?.questions ?? 0) === 0 ? 'It wants questions.' : ''}
          </p>
        )}
      </aside>
    </main>
  )
}

const DATES = [
  ['opens', 'Opens'],
  ['due', 'Due'],
  ['closes', 'Closes'],
] as const

function Dates({
  test,
  problems,
  onChange,
}: {
  test: NewTest
  problems: Record<string, string>
  onChange: (next: Partial<NewTest>) => void
}) {
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">Dates</legend>
      <div className="mt-2 flex flex-wrap gap-4">
        {DATES.map(([name, label]) => (
          <div key={name}>
            <Labelled label={`${label}, if at all`}>
              <Input
                type="datetime-local"
                value={localTime(test[name])}
                onChange={(event) =>
                  onChange({
                    [name]: event.target.value ? new Date(event.target.value).toISOString() : null,
                  })
                }
              />
            </Labelled>
            {problems[name] && <p className="mt-1 max-w-60 text-wrong">{problems[name]}</p>}
          </div>
        ))}
      </div>
    </fieldset>
  )
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useCourse } from '../../account/course'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { fieldClass, Input, Labelled, Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { aimsQuery, setAims } from './queries'

type Aims = Schemas['AimsOut']
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const USUAL = 20

export default function AimsPage() {
  useTitle('Targets and dates')
  const query = useQuery(aimsQuery(useCourse()))
  return (
    <Loaded query={query} what="your targets">
      {(aims) => <Opened aims={aims} />}
    </Loaded>
  )
}

/** What the learner works towards, and what of it is theirs to set. */
function Opened({ aims }: { aims: Aims }) {
  const course = useCourse()
  const cache = useQueryClient()
  const [exam, setExam] = useState(aims.own_exam_on ?? '')
  const [minutes, setMinutes] = useState(aims.minutes.length ? aims.minutes : DAYS.map(() => USUAL))
  const [own, setOwn] = useState<Record<string, number>>(
    Object.fromEntries(aims.topics.flatMap((t) => (t.own === null ? [] : [[t.key, t.own]]))),
  )
  const save = useMutation({
    mutationFn: () =>
      setAims(course, { exam_on: exam || null, minutes, targets: aims.own ? own : {} }),
    onSuccess: (next) => {
      cache.setQueryData(keys.aims(course), next)
      void cache.invalidateQueries({ queryKey: keys.course(course) })
    },
  })
  const setTarget = (key: string, value: number | null) => {
    const { [key]: _, ...rest } = own
    setOwn(value ? { ...rest, [key]: value } : rest)
  }
  return (
    <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">Targets and dates</h1>
      <p className="mt-1 text-ink-2">
        {aims.groups.length > 0
          ? `Your group ${aims.groups.join(' and ')} sets what is taught and the targets. `
          : 'You are in no group, so the course’s targets hold. '}
        {aims.own
          ? 'Where you set your own, yours holds.'
          : 'Your group does not allow own targets or an own date.'}
      </p>
      <form
        className="mt-6 grid gap-7"
        onSubmit={(event) => {
          event.preventDefault()
          save.mutate()
        }}
      >
        {aims.own && (
          <Labelled label="By when, if you have a date of your own" className="max-w-xs">
            <Input type="date" value={exam} onChange={(event) => setExam(event.target.value)} />
          </Labelled>
        )}
        <fieldset>
          <legend className="text-lg font-heading font-semibold">Minutes you mean to work</legend>
          <div className="mt-2 flex flex-wrap gap-3">
            {DAYS.map((day, i) => (
              <Labelled key={day} label={day}>
                <Input
                  type="number"
                  min={0}
                  max={240}
                  step={5}
                  className="w-20"
                  value={minutes[i] ?? 0}
                  onChange={(event) =>
                    setMinutes(
                      minutes.map((one, j) => (j === i ? Number(event.target.value) : one)),
                    )
                  }
                />
              </Labelled>
            ))}
          </div>
        </fieldset>
        <section>
          <h2 className="text-lg">Targets</h2>
          <ul className="mt-1">
            {aims.topics.map((topic) => (
              <li
                key={topic.key}
                className="flex flex-wrap items-center justify-between gap-x-6 border-b border-line py-1.5"
              >
                <span>
                  {topic.title}
                  {!topic.taught && <span className="text-ink-2">, not yet taught</span>}
                </span>
                {aims.own ? (
                  <input
                    type="number"
                    min={50}
                    max={95}
                    aria-label={`Own target in ${topic.title}`}
                    className={`${fieldClass} w-24`}
                    value={own[topic.key] ?? ''}
                    placeholder={String(topic.own === null ? topic.target : topic.course_target)}
                    onChange={(event) => setTarget(topic.key, Number(event.target.value) || null)}
                  />
                ) : (
                  <span className="font-semibold tabular-nums">{topic.target}</span>
                )}
              </li>
            ))}
          </ul>
        </section>
        <div className="flex flex-wrap items-center gap-4">
          <Button type="submit" kind="strong" disabled={save.isPending}>
            Save
          </Button>
          <span role="status">{save.isSuccess && 'Saved.'}</span>
          <Problem error={save.error} />
        </div>
      </form>
    </main>
  )
}

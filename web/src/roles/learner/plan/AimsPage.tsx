import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { ChangedNote } from '../../../account/ChangedNote'
import { useCourse } from '../../../account/course'
import { useEdit } from '../../../account/useEdit'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { DateField } from '../../../ui/DateField'
import { fieldClass, Input, Labelled, SaveRow } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { aimsQuery, setAims } from '../queries'

type Aims = Schemas['AimsOut']
const DAYS = [t`Mon`, t`Tue`, t`Wed`, t`Thu`, t`Fri`, t`Sat`, t`Sun`]
const USUAL = 20

/** Minutes of each day; as usual where none were set yet. */
const shownMinutes = (set: number[]) => (set.length ? set : DAYS.map(() => USUAL))

const LABELS: Record<string, string> = {
  exam_on: t`By when`,
  minutes: t`Minutes you plan to work`,
}

/** What a learner set themselves: targets that a group does not allow are sent back as they are. */
const ofAims = (aims: Aims) => ({
  exam_on: aims.own_exam_on,
  minutes: aims.minutes,
  targets: Object.fromEntries(
    aims.topics.flatMap((topic) => (topic.own === null ? [] : [[topic.key, topic.own]])),
  ) as Record<string, number>,
})

export default function AimsPage() {
  useTitle(t`Targets and dates`)
  const query = useQuery(aimsQuery(useCourse()))
  return (
    <Loaded query={query} what={t`your targets`}>
      {(aims) => <Opened aims={aims} />}
    </Loaded>
  )
}

/** What the learner works towards, and what of it is theirs to set. */
function Opened({ aims }: { aims: Aims }) {
  const course = useCourse()
  const cache = useQueryClient()
  const edit = useEdit({
    place: `aims:${course}`,
    opened: ofAims(aims),
    version: aims.version,
    save: (form, version) =>
      setAims(course, { ...form, minutes: shownMinutes(form.minutes), version }),
    stands: (next) => ({ form: ofAims(next), version: next.version }),
    onSaved: (next) => {
      cache.setQueryData(keys.aims(course), next)
      void cache.invalidateQueries({ queryKey: keys.course(course) })
    },
  })
  const { exam_on: exam, targets: own } = edit.form
  const minutes = shownMinutes(edit.form.minutes)
  const setTarget = (key: string, value: number | null) => {
    const { [key]: _, ...rest } = own
    edit.set({ targets: value ? { ...rest, [key]: value } : rest })
  }
  const label = (path: string) =>
    aims.topics.find((one) => path === `targets.${one.key}`)?.title ?? LABELS[path] ?? path
  return (
    <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Targets and dates`}</h1>
      <p className="mt-1 text-ink-2">
        {aims.groups.length > 0
          ? t`Your group ${aims.groups.join(' and ')} decides what is taught and the targets. `
          : t`You aren’t in a group, so you have the course’s targets. `}
        {aims.own
          ? t`Your own targets come first.`
          : t`Your group sets the targets and the date for everyone.`}
      </p>
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <form
        className="mt-6 grid gap-7"
        onSubmit={(event) => {
          event.preventDefault()
          edit.save()
        }}
      >
        {aims.own && (
          <DateField
            label={t`Your own date (optional)`}
            day={exam}
            onDay={(day) => edit.set({ exam_on: day })}
          />
        )}
        <fieldset>
          <legend className="text-lg font-heading font-semibold">{t`Minutes you plan to work`}</legend>
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
                    edit.set({
                      minutes: minutes.map((one, j) =>
                        j === i ? Number(event.target.value) : one,
                      ),
                    })
                  }
                />
              </Labelled>
            ))}
          </div>
        </fieldset>
        <section>
          <h2 className="text-lg">{t`Targets`}</h2>
          <ul className="mt-1">
            {aims.topics.map((topic) => (
              <li
                key={topic.key}
                className="flex flex-wrap items-center justify-between gap-x-6 border-b border-line py-1.5"
              >
                <span>
                  {topic.title}
                  {!topic.taught && <span className="text-ink-2">{t`, not taught yet`}</span>}
                </span>
                {aims.own ? (
                  <input
                    type="number"
                    min={50}
                    max={95}
                    aria-label={t`Your target in ${topic.title}`}
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
        <ChangedNote conflict={edit.conflict} label={label} />
        <SaveRow save={edit} strong />
      </form>
    </main>
  )
}

import { t } from '@lingui/core/macro'
import { type QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ChangedNote } from '../../account/ChangedNote'
import { useEdit } from '../../account/useEdit'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Check } from '../../ui/Check'
import { Labelled, Problem, SaveRow, TextArea, TextField } from '../../ui/Field'
import { KeptNote } from '../../ui/KeptNote'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { counted } from '../../ui/words'
import { NewCourse } from './NewCourse'
import { schoolQuery } from './queries'

type School = Schemas['SchoolOut']

const ofSchool = ({ name, consent_until, wording }: School) => ({ name, consent_until, wording })

const LABELS: Record<string, string> = {
  name: t`Name of the school`,
  consent_until: t`Age of consent`,
  wording: t`What guardians agree to`,
}

function shownAnew(cache: QueryClient, next: School) {
  void cache.invalidateQueries({ queryKey: keys.office })
  cache.setQueryData(keys.school, next)
}

/** The school's settings, and which courses are open to all. */
export default function SchoolPage() {
  useTitle(t`School`)
  const query = useQuery(schoolQuery)
  const cache = useQueryClient()
  return (
    <main id="main" className="grid max-w-4xl gap-9 px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`School`}</h1>
      <Loaded query={query} what={t`the school`}>
        {(school) => (
          <>
            <Settings school={school} />
            <Courses school={school} />
            <NewCourse school={school} onMade={(next) => shownAnew(cache, next)} />
            <p>
              <TextLink to="/office/fairness">{t`Check that a test is fair`}</TextLink>
            </p>
          </>
        )}
      </Loaded>
    </main>
  )
}

function Settings({ school }: { school: School }) {
  const cache = useQueryClient()
  const edit = useEdit({
    place: 'school',
    opened: ofSchool(school),
    version: school.version,
    save: (form, version) => call(api.PUT('/api/office/school', { body: { ...form, version } })),
    stands: (next) => ({ form: ofSchool(next), version: next.version }),
    onSaved: (next) => shownAnew(cache, next),
  })
  const { form: now, set } = edit
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        edit.save()
      }}
    >
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <div className="grid items-end gap-4 @3xl:grid-cols-2">
        <TextField
          label={t`Name of the school`}
          required
          maxLength={120}
          value={now.name}
          onText={(text) => set({ name: text })}
        />
        <TextField
          label={t`A guardian must agree below this age (years)`}
          fieldWidth="w-28"
          type="number"
          min={0}
          max={18}
          value={now.consent_until}
          onText={(text) => set({ consent_until: Number(text) })}
        />
      </div>
      <Labelled label={t`What guardians agree to. '{learner}' and '{school}' are filled in`}>
        <TextArea
          required
          minLength={20}
          maxLength={2000}
          rows={4}
          value={now.wording}
          onChange={(event) => set({ wording: event.target.value })}
        />
      </Labelled>
      <p className="text-ink-2">{t`Earlier consents keep the wording they were given for. A new age applies at once to everyone whose date of birth we know.`}</p>
      <ChangedNote conflict={edit.conflict} label={(path) => LABELS[path] ?? path} />
      <SaveRow save={edit} strong />
    </form>
  )
}

type Opening = Pick<School['courses'][number], 'key' | 'open_to_all' | 'version'>

function Courses({ school }: { school: School }) {
  const cache = useQueryClient()
  const open = useMutation({
    mutationFn: ({ key, open_to_all, version }: Opening) =>
      call(
        api.PUT('/api/office/courses/{key}', {
          params: { path: { key } },
          body: { open_to_all, version },
        }),
      ),
    onSuccess: (next) => shownAnew(cache, next),
    onError: () => void cache.invalidateQueries({ queryKey: keys.school }),
  })
  const [chosen, setChosen] = useState<Opening | null>(null)
  const choose = (one: Opening) => {
    setChosen(one)
    open.mutate(one, { onSettled: () => setChosen(null) })
  }
  return (
    <section>
      <h2 className="text-xl">{t`Courses`}</h2>
      <ul className="mt-1">
        {school.courses.map((one) => (
          <li key={one.key} className="grid gap-x-6 border-b border-line py-2 @3xl:grid-cols-2">
            <span>
              <strong>{one.title}</strong>
              <span className="block text-ink-2">
                {counted(one.groups, 'group')}, {counted(one.learners, 'learner')}
              </span>
            </span>
            <Check
              on={chosen?.key === one.key ? chosen.open_to_all : one.open_to_all}
              disabled={open.isPending}
              set={(open_to_all) => choose({ key: one.key, open_to_all, version: one.version })}
            >
              {t`Open to everyone with an account`}
              <span className="sr-only">: {one.title}</span>
            </Check>
          </li>
        ))}
      </ul>
      <Problem error={open.error} />
    </section>
  )
}

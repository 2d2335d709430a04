import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useParams } from 'react-router'
import { ChangedNote } from '../../../account/ChangedNote'
import { useEdit } from '../../../account/useEdit'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { keys } from '../keys'
import { WhyField } from '../WhyField'
import { PageHistory } from './PageHistory'
import {
  type Resource,
  type Section,
  type StudyPage,
  savePage,
  studyPageQuery,
  studyPreviewQuery,
} from './queries'
import { SectionForm } from './SectionForm'
import { moved, put } from './shape'

const AFTER_TYPING = 250

/** A topic’s study page: each section as it is written, and as its learners will see it. */
export default function StudyEditor() {
  const { course = '', topic = '' } = useParams()
  const query = useQuery(studyPageQuery(course, topic))
  useTitle(t`Study page`)
  return (
    <Loaded query={query} what={t`the study page`}>
      {(page) => <Editor key={`${course} ${topic}`} course={course} page={page} />}
    </Loaded>
  )
}

interface Form {
  sections: Section[]
  resources: Resource[]
  why: string
}

function Editor({ course, page }: { course: string; page: StudyPage }) {
  const cache = useQueryClient()
  const topic = page.topic.key
  const edit = useEdit<Form, StudyPage>({
    place: `study-${course}-${topic}`,
    opened: { sections: page.sections, resources: page.resources, why: '' },
    version: page.version,
    save: (form, version) => savePage(course, topic, { ...form, version }),
    stands: ({ sections, resources, version }) => ({
      form: { sections, resources, why: '' },
      version,
    }),
    sent: ({ sections, resources }) => ({ sections, resources }),
    formed: (body, { why }) => ({ ...(body as Omit<Form, 'why'>), why }),
    onSaved: (next) => {
      cache.setQueryData(keys.studyPage(course, topic), next)
      void cache.invalidateQueries({ queryKey: keys.studyHistory(course, topic) })
    },
    whole: ['sections', 'resources'],
  })
  const { sections, resources, why } = edit.form
  const [history, setHistory] = useState(false)
  const typed = useSettled(sections)
  const preview = useQuery(studyPreviewQuery(course, topic, typed)).data
  const set = (next: Section[]) => edit.set({ sections: next })
  const changed =
    JSON.stringify([sections, resources]) !== JSON.stringify([page.sections, page.resources])
  return (
    <main id="main" className="px-5 py-6 @5xl:px-8">
      <p>
        <TextLink to={`/author/course/${course}`}>{t`Course`}</TextLink>
      </p>
      <h1 className="text-3xl">{t`Study page: ${page.topic.title}`}</h1>
      <p className="mt-1 text-ink-2">{t`Write **bold**, *italics*, lists with a hyphen, and formulas between $ signs. Learners see it once you publish.`}</p>
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      {preview && preview.problems.length > 0 && (
        <ul role="alert" className="mt-3 list-disc pl-5 text-wrong">
          {preview.problems.map(({ line, says }) => (
            <li key={`${line} ${says}`}>{says}</li>
          ))}
        </ul>
      )}
      <ol className="mt-5 grid gap-6">
        {sections.map((section, place) => (
          <SectionForm
            key={section.key || `new-${place}`}
            course={course}
            topic={topic}
            section={section}
            shown={preview?.shown[place]}
            use={page.uses.find(({ key }) => key === section.key)}
            place={place}
            many={sections.length}
            resources={resources}
            onResources={(next) => edit.set({ resources: next })}
            onChange={(next) => set(put(sections, place, next))}
            onMove={(to) => set(moved(sections, place, to))}
            onRemove={() => set(put(sections, place))}
          />
        ))}
      </ol>
      <details
        className="mt-5 max-w-4xl"
        onToggle={({ currentTarget }) => setHistory(currentTarget.open)}
      >
        <summary className="cursor-pointer font-semibold text-gust">{t`History`}</summary>
        {history && <PageHistory course={course} topic={topic} changed={changed} onRestore={set} />}
      </details>
      <form
        className="mt-5 grid gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          edit.save()
        }}
      >
        <p>
          <Button
            onClick={() => set([...sections, { key: '', title: t`New section`, body: '' }])}
          >{t`Add a section`}</Button>
        </p>
        <ChangedNote conflict={edit.conflict} label={(path) => path} />
        <div className="sticky bottom-0 flex flex-wrap items-end gap-4 border-t border-line bg-sky py-3">
          <WhyField
            value={why}
            className="min-w-64 grow"
            fieldWidth="w-full max-w-xl"
            onText={(text) => edit.set({ why: text })}
          />
          <Button
            type="submit"
            kind="strong"
            disabled={!changed || edit.isPending}
          >{t`Publish`}</Button>
          {changed && <Button kind="quiet" onClick={edit.discard}>{t`Discard changes`}</Button>}
          <span role="status">{edit.isSuccess && !changed && t`Published.`}</span>
        </div>
        <Problem error={edit.error} />
      </form>
    </main>
  )
}

/** A value once nothing was typed for a moment. */
function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const waiting = setTimeout(() => setSettled(value), AFTER_TYPING)
    return () => clearTimeout(waiting)
  }, [value])
  return settled
}

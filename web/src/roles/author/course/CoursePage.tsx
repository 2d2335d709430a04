import { t } from '@lingui/core/macro'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { ChangedNote } from '../../../account/ChangedNote'
import { useEdit } from '../../../account/useEdit'
import { Button } from '../../../ui/Button'
import { Problem, TextField } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { keys } from '../keys'
import { ChangesSheet } from './ChangesSheet'
import { Constants } from './Constants'
import { MergeSheet } from './MergeSheet'
import { type Structure, saveStructure, structureQuery, type Topic } from './queries'
import { SubjectForm } from './SubjectForm'
import { moved, newSubject, put, topicsOf, withSubject } from './shape'
import { WhatBuildsOnWhat } from './WhatBuildsOnWhat'

const shapeOf = ({ title, subjects, constants }: Structure) => ({ title, subjects, constants })

/** A course’s subjects and topics: what they aim for, what builds on what. */
export default function CoursePage() {
  const { course = '' } = useParams()
  const query = useQuery(structureQuery(course))
  useTitle(t`Course`)
  return (
    <Loaded query={query} what={t`the course`}>
      {(structure) => <Editor key={course} course={course} structure={structure} />}
    </Loaded>
  )
}

function Editor({ course, structure }: { course: string; structure: Structure }) {
  const cache = useQueryClient()
  const [checking, setChecking] = useState(false)
  const [merging, setMerging] = useState<Topic | null>(null)
  const anew = (next: Structure) => {
    cache.setQueryData(keys.structure(course), next)
    void cache.invalidateQueries({ queryKey: keys.written })
  }
  const edit = useEdit({
    place: `structure-${course}`,
    opened: shapeOf(structure),
    version: structure.version,
    save: (form, version) => saveStructure(course, form, version),
    stands: (next) => ({ form: shapeOf(next), version: next.version }),
    onSaved: (next) => {
      setChecking(false)
      anew(next)
    },
    whole: ['subjects', 'constants'],
  })
  const { form, set } = edit
  const changed = JSON.stringify(form) !== JSON.stringify(shapeOf(structure))
  return (
    <main id="main" className="px-5 py-6 @5xl:px-8">
      <h1 className="text-3xl">{structure.title}</h1>
      <p className="mt-1 text-ink-2">{t`Subjects and topics, in the order learners should meet them. A topic builds only on topics above it.`}</p>
      <p className="text-ink-2">
        {t`Written by ${structure.authors.join(', ')}. The office says who writes for it.`}
      </p>
      <p className="mt-2 flex flex-wrap gap-x-6">
        <TextLink
          to={`/author/course/${course}/calibration`}
        >{t`Calibration: how hard is each question?`}</TextLink>
        <TextLink
          to={`/author/course/${course}/trials`}
        >{t`Trials: which text helps more?`}</TextLink>
        <TextLink to={`/author/course/${course}/imports`}>{t`Files in and out`}</TextLink>
      </p>
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <div className="mt-4 grid items-start gap-8 @6xl:grid-cols-[minmax(0,1fr)_22rem]">
        <form
          className="grid gap-5"
          onSubmit={(event) => {
            event.preventDefault()
            setChecking(true)
          }}
        >
          <TextField
            label={t`Title of the course`}
            value={form.title}
            required
            maxLength={120}
            fieldWidth="max-w-xl w-full"
            onText={(title) => set({ title })}
          />
          {form.subjects.map((subject, s) => (
            <SubjectForm
              key={subject.key || `new-${s}`}
              course={course}
              shape={form}
              place={s}
              inUse={structure.in_use}
              unsaved={changed}
              onShape={(subjects) => set({ subjects })}
              onSubject={(next) => set({ subjects: withSubject(form, s, next) })}
              onMove={(to) => set({ subjects: moved(form.subjects, s, to) })}
              onRemove={() => set({ subjects: put(form.subjects, s) })}
              onMerge={setMerging}
            />
          ))}
          <p>
            <Button
              onClick={() => set({ subjects: [...form.subjects, newSubject()] })}
            >{t`Add a subject`}</Button>
          </p>
          <Constants value={form.constants} onChange={(constants) => set({ constants })} />
          <div className="sticky bottom-0 flex flex-wrap items-center gap-4 border-t border-line bg-sky py-3">
            <Button type="submit" kind="strong" disabled={!changed}>{t`Review changes`}</Button>
            {changed && <Button kind="quiet" onClick={edit.discard}>{t`Discard changes`}</Button>}
            <span role="status">{edit.isSuccess && !changed && t`Saved.`}</span>
          </div>
        </form>
        <WhatBuildsOnWhat topics={topicsOf(form).filter(({ closed }) => !closed)} />
      </div>
      <ChangedNote conflict={edit.conflict} label={(path) => path} />
      {checking && (
        <ChangesSheet
          course={course}
          wanted={{ ...form, version: structure.version }}
          saving={edit.isPending}
          onClose={() => setChecking(false)}
          onSave={() => edit.save()}
        >
          <Problem error={edit.error} />
        </ChangesSheet>
      )}
      {merging && (
        <MergeSheet
          course={course}
          topic={merging}
          others={topicsOf(form).filter(({ key, closed }) => key !== merging.key && !closed)}
          onClose={() => setMerging(null)}
          onMerged={(next) => {
            setMerging(null)
            edit.discard()
            anew(next)
          }}
        />
      )}
    </main>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { fieldClass, Labelled, TextField } from '../../../ui/Field'
import { FilterRow, filtered } from '../../../ui/FilterRow'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { counted, day } from '../../../ui/words'
import { groupQuery, signalsQuery } from '../queries'
import { GroupBars } from './GroupBars'
import { Invite } from './Invite'
import { type By, KIND_FILTERS, listed } from './listed'
import { WriteSheet } from './WriteSheet'

type Group = Schemas['GroupOut']

export default function GroupPage() {
  const id = Number(useParams().group)
  const query = useQuery(groupQuery(id))
  return (
    <Loaded query={query} what={t`the group`}>
      {(group) => <Opened group={group} />}
    </Loaded>
  )
}

/** A group before a lesson: what is up in a sentence, then every learner by topic. */
function Opened({ group }: { group: Group }) {
  useTitle(group.title)
  const subjects = [...new Set(group.topics.map((topic) => topic.subject))]
  const [subject, setSubject] = useState<string>('')
  const shown = group.topics.map((topic) => !subject || topic.subject === subject)
  const [words, setWords] = useState('')
  const [writing, setWriting] = useState(false)
  const [kind, setKind] = useState('all')
  const [by, setBy] = useState<By>('need')
  const topics = group.topics.map((topic) => topic.key)
  const learners = listed(filtered([...group.learners], KIND_FILTERS, kind), words, by, topics)
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <p className="text-ink-2">
        {group.title}, {group.course_title}, {counted(group.learners.length, 'learner')}
        {group.exam_on && t`, exam ${day(group.exam_on)}`}
      </p>
      <h1 className="mt-0.5 text-3xl">{group.headline}</h1>
      <div className="mt-4 flex flex-wrap items-end gap-3">
        {group.waiting > 0 && (
          <Link to="/tutor/help" className={buttonClass('strong')}>
            {t`Answer ${counted(group.waiting, 'question')}`}
          </Link>
        )}
        <Link
          to={`/tutor/groups/${group.id}/teach`}
          className={buttonClass('plain')}
        >{t`What to teach next`}</Link>
        <Signals id={group.id} />
        <Link
          to={`/tutor/work/${group.id}`}
          className={buttonClass('plain')}
        >{t`Work you’ve set`}</Link>
        <Link
          to={`/tutor/groups/${group.id}/marks`}
          className={buttonClass('plain')}
        >{t`Marks`}</Link>
        <Link
          to={`/tutor/groups/${group.id}/questions`}
          className={buttonClass('plain')}
        >{t`Our own questions`}</Link>
        <Link
          to={`/tutor/groups/${group.id}/calendar`}
          className={buttonClass('plain')}
        >{t`Calendar`}</Link>
        <Link
          to={`/tutor/groups/${group.id}/settings`}
          className={buttonClass('plain')}
        >{t`Group settings`}</Link>
        <Button kind="plain" onClick={() => setWriting(true)}>{t`Write`}</Button>
        {writing && <WriteSheet group={group} onClose={() => setWriting(false)} />}
        <Invite id={group.id} code={group.code} ends={group.code_ends_at} />
        {subjects.length > 1 && (
          <label className="ml-auto flex items-center gap-2 text-ink-2">
            {t`Show`}
            <select
              value={subject}
              onChange={(event) => setSubject(event.target.value)}
              className={fieldClass}
            >
              <option value="">{t`all topics`}</option>
              {subjects.map((one) => (
                <option key={one} value={one}>
                  {one.replaceAll('-', ' ')}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {group.learners.length === 0 ? (
        <p className="mt-6 text-ink-2">{t`Give your learners the group’s code. They’ll appear here once they’ve joined.`}</p>
      ) : (
        <>
          <div className="mt-6 flex flex-wrap items-end gap-x-6 gap-y-2">
            <FilterRow
              all={group.learners}
              filters={KIND_FILTERS}
              chosen={kind}
              onChoose={setKind}
            />
            <TextField
              label={t`Find a learner`}
              value={words}
              onText={setWords}
              fieldWidth="w-56"
            />
            <Labelled label={t`Sort by`}>
              <select
                value={by}
                onChange={(event) => setBy(event.target.value as By)}
                className={fieldClass}
              >
                <option value="need">{t`who needs most`}</option>
                <option value="name">{t`name`}</option>
                <option value="last">{t`last active`}</option>
                {group.topics
                  .filter((_, i) => shown[i])
                  .map((topic) => (
                    <option key={topic.key} value={`topic:${topic.key}`}>
                      {topic.title}
                    </option>
                  ))}
              </select>
            </Labelled>
          </div>
          <p className="sr-only" aria-live="polite">
            {counted(learners.length, 'learner')}
          </p>
          <GroupBars group={group} learners={learners} shown={shown} />
        </>
      )}
    </main>
  )
}

/** How much is worth asking; it is found after the page stands, for it takes longer. */
function Signals({ id }: { id: number }) {
  const signals = useQuery(signalsQuery(id)).data?.signals ?? []
  return (
    <Link to={`/tutor/groups/${id}/signals`} className={buttonClass('plain')}>
      {signals.length ? t`Worth a conversation: ${signals.length}` : t`Worth a conversation`}
    </Link>
  )
}

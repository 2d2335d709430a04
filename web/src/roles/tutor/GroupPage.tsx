import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../../api/client'
import { buttonClass } from '../../ui/Button'
import { DriftBar } from '../../ui/DriftBar'
import { fieldClass } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted, day } from '../../ui/words'
import { Invite } from './Invite'
import { groupQuery, signalsQuery } from './queries'

type Group = Schemas['GroupOut']
type Row = Schemas['LearnerRowOut']

export default function GroupPage() {
  const id = Number(useParams().group)
  const query = useQuery(groupQuery(id))
  return (
    <Loaded query={query} what="the group">
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
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <p className="text-ink-2">
        {group.title}, {group.course_title}, {counted(group.learners.length, 'learner')}
        {group.exam_on && `, exam ${day(group.exam_on)}`}
      </p>
      <h1 className="mt-0.5 text-3xl">{group.headline}</h1>
      <div className="mt-4 flex flex-wrap items-end gap-3">
        {group.waiting > 0 && (
          <Link to="/tutor/help" className={buttonClass('strong')}>
            Answer {counted(group.waiting, 'question')}
          </Link>
        )}
        <Link to={`/tutor/groups/${group.id}/teach`} className={buttonClass('plain')}>
          What to teach next
        </Link>
        <Signals id={group.id} />
        <Link to={`/tutor/work/${group.id}`} className={buttonClass('plain')}>
          Work set
        </Link>
        <Link to={`/tutor/groups/${group.id}/settings`} className={buttonClass('plain')}>
          Taught so far, targets and rules
        </Link>
        <Invite id={group.id} code={group.code} ends={group.code_ends_at} />
        {subjects.length > 1 && (
          <label className="ml-auto flex items-center gap-2 text-ink-2">
            Show
            <select
              value={subject}
              onChange={(event) => setSubject(event.target.value)}
              className={fieldClass}
            >
              <option value="">all topics</option>
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
        <p className="mt-6 text-ink-2">
          Give the group’s code to your learners; then they are here.
        </p>
      ) : (
        <Bars group={group} shown={shown} />
      )}
    </main>
  )
}

/** How much is worth asking; it is found after the page stands, for it takes longer. */
function Signals({ id }: { id: number }) {
  const signals = useQuery(signalsQuery(id)).data?.signals ?? []
  return (
    <Link to={`/tutor/groups/${id}/signals`} className={buttonClass('plain')}>
      {signals.length ? `Ask about ${counted(signals.length, 'thing')}` : 'Worth asking'}
    </Link>
  )
}

function Bars({ group, shown }: { group: Group; shown: boolean[] }) {
  const topics = group.topics.filter((_, i) => shown[i])
  return (
    <section
      aria-label="Levels of the group"
      className="mt-6 overflow-x-auto"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls is reached by keyboard
      tabIndex={0}
    >
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="align-bottom text-sm text-ink-2">
            <th scope="col" className="sticky left-0 z-[1] min-w-60 bg-sky py-1.5 pr-4 font-normal">
              Learner, who needs you first
            </th>
            {topics.map((topic) => (
              <th key={topic.key} scope="col" className="min-w-32 px-2 py-1.5 font-normal">
                {topic.title}
                {!topic.taught && <span className="block">not yet taught</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {group.learners.map((row) => (
            <LearnerRow key={row.id} row={row} group={group} shown={shown} />
          ))}
        </tbody>
        <tfoot>
          <tr className="border-t-2 border-edge text-sm">
            <th
              scope="row"
              className="sticky left-0 z-[1] bg-sky py-2 pr-4 text-left font-semibold"
            >
              Mean of the levels known
            </th>
            {topics.map((topic) => (
              <td key={topic.key} className="px-2 py-2 tabular-nums">
                <span className="font-heading text-base font-semibold">{topic.mean ?? '?'}</span>{' '}
                <span className="text-ink-2">
                  of {topic.known}, {topic.met} met
                </span>
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
    </section>
  )
}

const LOUD: Row['kind'][] = ['stuck', 'left', 'not_begun', 'away']

function LearnerRow({ row, group, shown }: { row: Row; group: Group; shown: boolean[] }) {
  return (
    <tr className="border-t border-line">
      <th scope="row" className="sticky left-0 z-[1] bg-sky py-2 pr-4 text-left font-normal">
        <Link to={`/tutor/learners/${row.id}`} className="font-semibold text-gust hover:underline">
          {row.name}
        </Link>
        <span className={`block text-sm ${LOUD.includes(row.kind) ? 'text-part' : 'text-ink-2'}`}>
          {row.says}
        </span>
      </th>
      {group.topics.map((topic, i) => {
        const cell = row.cells[i]
        if (!shown[i] || !cell) return null
        return (
          <td key={topic.key} className="px-2">
            {cell.state === 'not_yet' ? (
              <span className="text-sm text-ink-3">not yet</span>
            ) : (
              <Link to={`/tutor/learners/${row.id}/topics/${topic.key}`} className="block">
                <DriftBar
                  name={`${row.name}, ${topic.title}`}
                  reading={cell.reading}
                  met={cell.state === 'met' || cell.state === 'secure'}
                />
              </Link>
            )}
          </td>
        )
      })}
    </tr>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { Pick } from '../../composing/Pick'
import { writtenQuery } from '../bank/queries'
import { keys } from '../keys'
import { WhyField } from '../WhyField'
import { PackReport } from './PackReport'
import { type Import, importQuery, setTopic, skipWrong, storeImport, undoImport } from './queries'
import { Rows } from './Rows'
import { Tests } from './Tests'
import { stateWords } from './words'

/** One file of questions: looked through, corrected, and taken into the course or taken back. */
export default function ImportPage() {
  const { course = '', number = '' } = useParams()
  const [filter, setFilter] = useState({ wrong: false, page: 1 })
  const query = useQuery(importQuery(course, Number(number), filter))
  useTitle(t`Files in and out`)
  return (
    <Loaded query={query} what={t`the file`}>
      {(found) => (
        <main id="main" className="px-5 py-6 @5xl:px-8">
          <p>
            <TextLink to={`/author/course/${course}/imports`}>{t`Files in and out`}</TextLink>
          </p>
          <h1 className="text-3xl break-all">{found.name}</h1>
          <p role="status" className="mt-1 text-lg">
            {stateWords(found)}
          </p>
          {found.unread.length > 0 && (
            <p className="mt-1 max-w-4xl text-ink-2">
              {found.kind === 'qti'
                ? t`Not read: ${found.unread.join('; ')}.`
                : t`Columns that weren’t read: ${found.unread.join(', ')}.`}
            </p>
          )}
          {open(found) && <Decide course={course} found={found} />}
          {found.state === 'done' && found.kind !== 'pack' && (
            <Undo course={course} found={found} />
          )}
          {found.report && found.state !== 'looking' && <PackReport report={found.report} />}
          {found.tests.length > 0 && found.state !== 'looking' && (
            <Tests course={course} found={found} closed={!open(found)} />
          )}
          {found.kind !== 'pack' && (
            <Rows {...{ course, found, filter, setFilter }} closed={!open(found)} />
          )}
        </main>
      )}
    </Loaded>
  )
}

const open = ({ state }: Import) => state === 'ready' || state === 'failed'

interface Props {
  course: string
  found: Import
}

/** Where questions go that name no topic, and taking all of them into the course. */
function Decide({ course, found }: Props) {
  const cache = useQueryClient()
  const topics = useQuery(writtenQuery).data?.courses.find(({ key }) => key === course)?.topics
  const [publish, setPublish] = useState(false)
  const [over, setOver] = useState(false)
  const pack = found.kind === 'pack'
  const conflicts = found.report?.conflicts.length ?? 0
  const stuck = pack
    ? (found.report?.problems.length ?? 0) > 0 || (conflicts > 0 && !over)
    : found.wrong > 0
  const [why, setWhy] = useState('')
  const anew = () => cache.invalidateQueries({ queryKey: keys.import(course, found.id) })
  const topic = useMutation({
    mutationFn: ({ key, words }: { key: string; words?: string }) =>
      setTopic(course, found.id, key, words),
    onSuccess: anew,
  })
  const skip = useMutation({ mutationFn: () => skipWrong(course, found.id), onSuccess: anew })
  const store = useMutation({
    mutationFn: () => storeImport(course, found.id, { publish, over, why }),
    onSuccess: anew,
  })
  return (
    <form
      className="mt-4 grid max-w-3xl gap-3 rounded-box bg-sheet p-4"
      onSubmit={(event) => {
        event.preventDefault()
        store.mutate()
      }}
    >
      {pack ? (
        conflicts > 0 && (
          <Check on={over} set={setOver}>{t`Replace the files that were changed here too`}</Check>
        )
      ) : (
        <>
          <Pick
            label={t`Topic of questions that name none`}
            options={[['', t`none`], ...(topics ?? []).map(pair)]}
            value={found.topic?.key ?? ''}
            onChange={(key) => topic.mutate({ key })}
          />
          {found.unplaced.map((words) => (
            <Pick
              key={words}
              label={t`Topic of questions about “${words}”`}
              options={[['', t`none`], ...(topics ?? []).map(pair)]}
              value=""
              onChange={(key) => topic.mutate({ key, words })}
            />
          ))}
          <Check
            on={publish}
            set={setPublish}
          >{t`Publish them at once. Otherwise they become drafts, and no learner sees them yet.`}</Check>
        </>
      )}
      <WhyField value={why} onText={setWhy} />
      <p>
        <Button
          type="submit"
          kind="strong"
          disabled={stuck || why.trim().length < 3 || store.isPending}
        >
          {pack ? t`Put it in force` : t`Take them into the course`}
        </Button>
        {!pack && found.wrong > 0 && (
          <span className="ml-3 text-ink-2">
            {t`Correct or leave out those with problems first.`}{' '}
            <Button
              kind="quiet"
              disabled={skip.isPending}
              onClick={() => skip.mutate()}
            >{t`Leave out all of them`}</Button>
          </span>
        )}
      </p>
      <Problem error={topic.error ?? skip.error ?? store.error} />
    </form>
  )
}

const pair = ({ key, title }: { key: string; title: string }): [string, string] => [key, title]

function Undo({ course, found }: Props) {
  const cache = useQueryClient()
  const undo = useMutation({
    mutationFn: () => undoImport(course, found.id),
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.import(course, found.id) }),
  })
  return (
    <div className="mt-4">
      <Button disabled={undo.isPending} onClick={() => undo.mutate()}>{t`Take all back`}</Button>
      <Problem error={undo.error} />
      <p role="status" className="mt-1">
        {undo.data &&
          undo.data.kept.length > 0 &&
          t`These stay, because they were changed since: ${undo.data.kept.join(', ')}.`}
      </p>
    </div>
  )
}

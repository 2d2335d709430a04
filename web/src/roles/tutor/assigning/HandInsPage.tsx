import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { useKept } from '../../../account/useKept'
import { ApiError, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { FileLines } from '../../../files/FileLines'
import { Button } from '../../../ui/Button'
import { Input, Labelled, Problem, TextArea } from '../../../ui/Field'
import { Html } from '../../../ui/Html'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { moment } from '../../../ui/words'
import { handInsQuery, markHandIn } from '../queries'

type Page = Schemas['HandInsOut']
type Line = Page['learners'][number]

/** What learners handed in for a piece of work, to be looked at and marked. */
export default function HandInsPage() {
  const params = useParams()
  const [group, task] = [Number(params.group), Number(params.task)]
  const query = useQuery(handInsQuery(group, task))
  useTitle(query.data?.title ?? t`Handed in`)
  return (
    <Loaded query={query} what={t`what was handed in`}>
      {(page) => {
        const came = page.learners.filter((one) => one.handed_in)
        const waiting = came.filter((one) => !one.mark).length
        const missing = page.learners.filter((one) => !one.handed_in)
        return (
          <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
            <TextLink to={`/tutor/work/${group}`}>{t`Work of ${page.group}`}</TextLink>
            <h1 className="mt-1 text-3xl">{page.title}</h1>
            <p className="mt-1 text-ink-2">
              {t`${came.length} of ${page.learners.length} handed in, ${waiting} to mark.`}
              {page.due && t` Due ${moment(page.due)}.`}
            </p>
            {page.says_html && <Html html={page.says_html} className="prose-study mt-3" />}
            {[...came].sort(unmarkedFirst).map((line) => (
              <HandedIn key={line.learner} line={line} page={page} group={group} task={task} />
            ))}
            {missing.length > 0 && (
              <>
                <h2 className="mt-8 text-xl">{t`Not handed in`}</h2>
                <p className="mt-1">{missing.map((one) => one.name).join(', ')}</p>
              </>
            )}
          </main>
        )
      }}
    </Loaded>
  )
}

const unmarkedFirst = (one: Line, other: Line) =>
  Number(one.mark !== null) - Number(other.mark !== null)

interface Props {
  line: Line
  page: Page
  group: number
  task: number
}

function HandedIn({ line, page, group, task }: Props) {
  const [changing, setChanging] = useState(false)
  const { mark } = line
  return (
    <section aria-label={line.name} className="mt-7 border-t border-line pt-4">
      <h2 className="text-xl">
        <TextLink to={`/tutor/learners/${line.learner}`}>{line.name}</TextLink>
      </h2>
      <p className="mb-3 text-ink-2">
        {line.handed_in && t`Handed in ${moment(line.handed_in)}`}
        {line.late && <span className="text-wrong">{t`, late`}</span>}
      </p>
      <FileLines files={line.files} />
      <ul className="mt-2">
        {line.links.map((link) => (
          <li key={link}>
            <a
              href={link}
              target="_blank"
              rel="noreferrer noopener"
              className="break-all text-gust hover:underline"
            >
              {link}
            </a>
          </li>
        ))}
      </ul>
      {mark && !changing ? (
        <div className="mt-3">
          <p>
            <strong>
              {mark.points !== null && mark.of !== null
                ? t`${mark.points} of ${mark.of} points`
                : t`Marked`}
            </strong>
            {t` by ${mark.by}, ${moment(mark.at)}`}
          </p>
          {mark.comment && <p className="mt-1 whitespace-pre-wrap">{mark.comment}</p>}
          <Button kind="quiet" className="-ml-2" onClick={() => setChanging(true)}>
            {t`Change the mark`}
          </Button>
        </div>
      ) : (
        <MarkForm
          line={line}
          page={page}
          group={group}
          task={task}
          onKept={() => setChanging(false)}
        />
      )}
    </section>
  )
}

function MarkForm({ line, page, group, task, onKept }: Props & { onKept: () => void }) {
  const cache = useQueryClient()
  const kept = useKept(`hand-in:${task}:${line.learner}`, () => ({
    points: line.mark?.points ?? '',
    comment: line.mark?.comment ?? '',
  }))
  const { value, set } = kept
  const keep = useMutation({
    mutationFn: () =>
      markHandIn(group, task, line.learner, {
        points: page.points === null ? null : value.points === '' ? null : value.points,
        comment: value.comment,
        seen: line.version,
      }),
    onError: (error) => {
      if (error instanceof ApiError && error.code === 'marked_elsewhere')
        void cache.invalidateQueries({ queryKey: handInsQuery(group, task).queryKey })
    },
    onSuccess: (next) => {
      kept.saved(value)
      cache.setQueryData(handInsQuery(group, task).queryKey, next)
      void cache.invalidateQueries({ queryKey: keys.groupTasks(group), exact: true })
      void cache.invalidateQueries({ queryKey: keys.marking })
      onKept()
    },
  })
  return (
    <form
      className="mt-3 grid max-w-2xl gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        keep.mutate()
      }}
    >
      {page.points !== null && (
        <Labelled label={t`Points, of ${page.points}`}>
          <Input
            type="number"
            min={0}
            max={page.points}
            step={0.5}
            className="w-28"
            value={value.points}
            onChange={(event) => set({ ...value, points: event.target.value })}
          />
        </Labelled>
      )}
      <Labelled label={t`Comment for ${line.name} (optional)`}>
        <TextArea
          rows={2}
          maxLength={4000}
          value={value.comment}
          onChange={(event) => set({ ...value, comment: event.target.value })}
        />
      </Labelled>
      <Problem error={keep.error} />
      <p>
        <Button
          type="submit"
          kind="strong"
          disabled={keep.isPending || (page.points !== null && value.points === '')}
        >{t`Save the mark`}</Button>
        <span className="ml-3 text-sm text-ink-2">{t`${line.name} sees it at once.`}</span>
      </p>
    </form>
  )
}

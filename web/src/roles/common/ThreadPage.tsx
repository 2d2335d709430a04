import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { useKept } from '../../account/useKept'
import type { Schemas } from '../../api/client'
import { QuestionView } from '../../player/QuestionView'
import { Solution } from '../../player/Solution'
import { WorkingShown } from '../../player/WorkingShown'
import { Button } from '../../ui/Button'
import { Labelled, Problem, TextArea } from '../../ui/Field'
import { Html } from '../../ui/Html'
import { Missing } from '../../ui/Missing'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { moment, since } from '../../ui/words'
import { replyThread, settleThread, threadQuery, useThreadChange } from './queries'

type Thread = Schemas['ThreadOut']

export default function ThreadPage() {
  const { id } = useParams()
  if (!id || !/^\d+$/.test(id)) return <Missing />
  return <Known key={id} id={Number(id)} />
}

function Known({ id }: { id: number }) {
  const query = useQuery(threadQuery(id))
  return (
    <Loaded query={query} what={t`the thread`}>
      {(thread) => <Opened thread={thread} />}
    </Loaded>
  )
}

const KINDS = { fault: t`Reported problem`, help: t`Help`, contest: t`Contested mark` }

/** A thread: what was said, and beside it the question it is about. */
function Opened({ thread }: { thread: Thread }) {
  const { line, question } = thread
  useTitle(line.title)
  return (
    <main id="main" className="@4xl:grid @4xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <section className="px-5 py-8 @5xl:px-8">
        <p className="text-sm text-ink-2">
          {t`${KINDS[line.kind]}, ${line.topic.title}, asked by ${line.asker}`}
          {line.waits_since && t`, waiting ${since(line.waits_since)}`}
        </p>
        <h1 className="text-2xl">{line.title}</h1>
        <ol className="mt-4 grid gap-4" aria-label={t`What was said`}>
          {thread.posts.map((post) => (
            <li
              key={post.id}
              className={`max-w-xl rounded-box px-4 py-3 ${post.mine ? 'ml-auto bg-gust-soft' : 'bg-sheet'}`}
            >
              <p className="text-sm text-ink-2">
                {post.mine ? t`You` : post.author}, {moment(post.at)}
              </p>
              <Html html={post.html} className="prose-study" />
              {post.quotes_solution && (
                <p className="text-sm text-ink-2">{t`The worked solution was sent too.`}</p>
              )}
            </li>
          ))}
        </ol>
        {line.state === 'settled' && (
          <p className="mt-5 border-l-4 border-correct pl-3">
            {t`Answered`}
            {thread.says && `: ${thread.says}`}
          </p>
        )}
        {thread.regrade_at && (
          <p className="mt-5">
            <TextLink
              to={thread.regrade_at}
              className="font-semibold"
            >{t`Regrade this question for everyone`}</TextLink>
          </p>
        )}
        {thread.can.includes('reply_thread') && <Reply thread={thread} />}
      </section>
      <section
        aria-label={t`The question`}
        className="bg-sheet px-5 py-8 @4xl:min-h-[calc(100dvh-3.5rem)] @5xl:px-8"
      >
        <h2 className="sr-only">{t`The question as the learner saw it`}</h2>
        <QuestionView
          question={{
            ...question,
            states: question.states.map((state) => ({ ...state, state: 'noted' as const })),
          }}
          responses={thread.given ?? {}}
          onChange={() => undefined}
        />
        {thread.given === null && (
          <p className="mt-3 text-sm text-ink-2">{t`The learner did not send their answer.`}</p>
        )}
        {thread.working && <WorkingShown working={thread.working} />}
        {question.solution && (
          <Solution
            steps={question.solution}
            source={question.source}
            figure={question.solution_figure}
          />
        )}
        {thread.met_by !== null && <Others thread={thread} />}
        {thread.edit_at && (
          <p className="mt-5">
            <TextLink
              to={thread.edit_at}
            >{t`Open this question: its other versions, what was answered, and its history`}</TextLink>
          </p>
        )}
      </section>
    </main>
  )
}

function Others({ thread }: { thread: Thread }) {
  return (
    <section className="mt-6">
      <h3 className="text-lg">{t`Others who had this question`}</h3>
      {thread.met_by === 0 ? (
        <p className="text-ink-2">{t`Nobody else has answered it yet.`}</p>
      ) : (
        <>
          <p className="text-ink-2">
            {thread.met_by} {thread.met_by === 1 ? t`learner has` : t`learners have`}{' '}
            {t`answered it. First answers:`}
          </p>
          <ul className="mt-1">
            {thread.others.map((one) => (
              <li key={one.words} className="flex justify-between gap-6 border-b border-line py-1">
                <span>{one.words}</span>
                <span className="tabular-nums">{one.count}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

function Reply({ thread }: { thread: Thread }) {
  const { id } = thread.line
  const { value: text, set: setText, saved } = useKept(`thread:${id}`, () => '')
  const [quotes, setQuotes] = useState(false)
  const reply = useThreadChange(replyThread(id))
  const settle = useThreadChange(settleThread(id))
  return (
    <form
      className="mt-6 grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        reply.mutate(
          { text, quotes_solution: quotes },
          {
            onSuccess: () => saved(''),
          },
        )
      }}
    >
      <Labelled label={t`Your reply. Put formulas between dollar signs: $v = s/t$`}>
        <TextArea
          rows={4}
          required
          maxLength={4000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Labelled>
      {thread.can.includes('quote_solution') && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-gust"
            checked={quotes}
            onChange={(event) => setQuotes(event.target.checked)}
          />
          {t`Send the worked solution too`}
        </label>
      )}
      <div className="flex flex-wrap gap-3">
        <Button type="submit" kind="strong" disabled={reply.isPending}>{t`Send`}</Button>
        {thread.can.includes('settle_thread') && (
          <Button
            disabled={settle.isPending}
            onClick={() => settle.mutate(text, { onSuccess: () => saved('') })}
          >
            {t`Mark as answered`}
            {text && t` found`}
          </Button>
        )}
      </div>
      <Problem error={reply.error ?? settle.error} />
    </form>
  )
}

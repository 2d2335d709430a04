import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { buttonClass } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted } from '../../../ui/words'
import { ownQuestionsQuery } from './queries'

type Own = Schemas['OwnQuestionOut']

/** What a group asks beside the course: written by its tutors, for its learners alone. */
export default function OwnQuestionsPage() {
  const id = Number(useParams().group)
  const query = useQuery(ownQuestionsQuery(id))
  useTitle(t`Our own questions`)
  return (
    <Loaded query={query} what={t`the group’s questions`}>
      {({ group, questions, course }) => (
        <main id="main" className="max-w-5xl px-5 py-6 @5xl:px-8">
          <p>
            <TextLink to={`/tutor/groups/${id}`}>{group}</TextLink>
          </p>
          <h1 className="text-3xl">{t`Our own questions`}</h1>
          <p className="mt-1 max-w-prose text-ink-2">
            {t`Only this group gets them, in practice, in work you set and in its tests. They change no level until an author takes them into the course.`}
          </p>
          <p className="mt-4 flex flex-wrap gap-3">
            <Link to="new" className={buttonClass('strong')}>{t`New question`}</Link>
            <Link to="examples" className={buttonClass('plain')}>{t`From examples`}</Link>
            {questions.some((one) => one.published) && (
              <>
                <Link
                  to={`/tutor/work/${id}/new`}
                  className={buttonClass('plain')}
                >{t`Set work with them`}</Link>
                <Link
                  to={`/tutor/tests/${course}/new`}
                  className={buttonClass('plain')}
                >{t`Make a test`}</Link>
              </>
            )}
          </p>
          {questions.length === 0 ? (
            <p className="mt-6 text-ink-2">{t`None yet. Type one from paper: you need no files.`}</p>
          ) : (
            <ul className="mt-5">
              {questions.map((one) => (
                <Line key={one.key} own={one} />
              ))}
            </ul>
          )}
        </main>
      )}
    </Loaded>
  )
}

function Line({ own }: { own: Own }) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-5 gap-y-0.5 border-b border-line py-2.5">
      <TextLink to={own.key} className="min-w-48 flex-1 font-semibold">
        {own.title}
      </TextLink>
      <span className="text-ink-2">{own.topic.title}</span>
      <span className="min-w-44 text-ink-2 tabular-nums">
        {own.right === null || own.stopped
          ? standing(own)
          : t`${own.right}% right of ${counted(own.answers, 'answer')}`}
      </span>
    </li>
  )
}

function standing(own: Own): string {
  if (own.stopped) return t`stopped`
  if (!own.published) return t`not published yet`
  return own.drafted ? t`no answers yet, with a draft` : t`no answers yet`
}

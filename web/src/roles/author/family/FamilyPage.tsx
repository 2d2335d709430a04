import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { ChangedNote, plain } from '../../../account/ChangedNote'
import { BottomBar } from '../../../ui/BottomBar'
import { Button, buttonClass } from '../../../ui/Button'
import { fieldName, Problem } from '../../../ui/Field'
import { Loaded, Loading } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { clockTime, day } from '../../../ui/words'
import { StopAsking } from '../../composing/StopAsking'
import { usePlace } from '../place'
import { Adopt } from './Adopt'
import { FamilyContext } from './context'
import { FormSide } from './FormSide'
import { textOf } from './json'
import { PublishSheet } from './PublishSheet'
import { discardDraft, type Workbench, workbenchQuery } from './queries'
import { TryVersion } from './TryVersion'
import { type Fields, savingWords, useDraft } from './useDraft'
import { useShown } from './useShown'
import { VersionsTable } from './VersionsTable'

const FileEditor = lazy(() => import('./FileEditor'))

/** A question family: written on the left, its versions always on the right. */
export default function FamilyPage() {
  const { family = '' } = useParams()
  const { course } = usePlace()
  const query = useQuery(workbenchQuery(course, family))
  return (
    <Loaded query={query} what={t`the question`}>
      {(opened) => <Writing key={family} opened={opened} />}
    </Loaded>
  )
}

function Writing({ opened }: { opened: Workbench }) {
  const { course, at, label, group } = usePlace()
  const draft = useDraft(course, opened)
  const { page } = draft
  const [seed, setSeed] = useState(1)
  const [variable, setVariable] = useState<string | null>(null)
  const [publishing, setPublishing] = useState(false)
  const navigate = useNavigate()
  const title = textOf(draft.data?.title) || page.key
  useTitle(title)
  const drop = useMutation({
    mutationFn: async () => {
      await draft.settled()
      return discardDraft(course, page.key)
    },
    onSuccess: ({ published }) => (published ? window.location.reload() : navigate(at)),
  })
  const look = (next: number) => {
    setSeed(next)
    draft.lookAtSeed(next)
  }
  const row = page.versions?.rows.find((one) => one.seed === seed) ?? page.versions?.rows[0]
  const shown = useShown(course, page, row?.seed ?? seed, setVariable, draft.data)
  return (
    <FamilyContext value={shown}>
      <main
        id="main"
        className="grid grid-cols-[minmax(0,1fr)] @4xl:grid-cols-[minmax(0,9fr)_minmax(0,11fr)]"
      >
        <div className="@container min-w-0 px-5 py-6 @5xl:px-8">
          <div className="flex flex-wrap gap-x-4">
            <TextLink to={at}>{label}</TextLink>
            <span className="text-ink-2">{page.topic.title}</span>
          </div>
          <div className="mt-1 flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
            <h1 className="text-3xl">{title}</h1>
            <span role="status" className="text-sm text-ink-2">
              {savingWords(draft.saving, page.is_draft)}
              {draft.saving === 'saved' && page.saved_at && ` ${clockTime(page.saved_at)}`}
            </span>
          </div>
          {page.group !== '' && group === null && <Adopt page={page} onAdopted={draft.stand} />}
          <Problem error={draft.error} />
          <ChangedNote
            conflict={draft.conflict}
            label={fieldName}
            words={(path, value) => (path === 'text' ? t`the whole file` : plain(path, value))}
          />
          <fieldset className="my-3 flex flex-wrap gap-1">
            <legend className="sr-only">{t`How to write it`}</legend>
            {(['form', 'file'] as const).map((as) => (
              <button
                key={as}
                type="button"
                aria-pressed={draft.as === as}
                disabled={as === 'form' && page.data === null}
                onClick={() => draft.lookAt(as)}
                className={`min-h-9 rounded-md px-2.5 disabled:opacity-55 ${draft.as === as ? 'bg-deep text-on-deep' : 'text-ink-2 hover:bg-rail'}`}
              >
                {as === 'form' ? t`As a form` : t`As a file`}
              </button>
            ))}
          </fieldset>
          {draft.as === 'form' && draft.data ? (
            <FormSide
              course={course}
              draft={draft}
              page={page}
              data={draft.data}
              variable={variable}
              onVariable={setVariable}
            />
          ) : (
            <Suspense fallback={<Loading what={t`the file`} />}>
              <FileEditor text={draft.text} problems={page.problems} onChange={draft.setText} />
            </Suspense>
          )}
          {page.published && !page.rehearsal && <StopAsking course={course} family={page.key} />}
        </div>
        <div className="min-w-0 bg-rail px-5 py-6 @5xl:px-7">
          <div className="@4xl:sticky @4xl:top-0 @4xl:max-h-[calc(100dvh-4rem)] @4xl:overflow-y-auto @4xl:py-4">
            {page.versions && row ? (
              <>
                <VersionsTable
                  versions={page.versions}
                  seed={row.seed}
                  onSeed={look}
                  onLeaveOut={(more) => draft.data && draft.setData(leavingOut(draft.data, more))}
                />
                <TryVersion course={course} family={page.key} version={page.version} row={row} />
              </>
            ) : (
              <Problems page={page} />
            )}
          </div>
        </div>
      </main>
      <BottomBar className="flex flex-wrap items-center justify-between gap-3 bg-sheet px-5 py-3 @5xl:px-8">
        <div className="flex flex-wrap items-center gap-3">
          <p className="text-ink-2">{publishedWords(page)}</p>
          {page.published && (
            <Link
              to={`${at}/${page.key}/history`}
              className={buttonClass('quiet')}
            >{t`History`}</Link>
          )}
          {page.published && page.group === '' && (
            <Link
              to={`/author/course/${course}/trials/new?family=${page.key}`}
              className={buttonClass('quiet')}
            >{t`Compare two texts`}</Link>
          )}
        </div>
        <p className="flex flex-wrap gap-3">
          <Link to={at} className={buttonClass('quiet')}>
            {page.is_draft ? t`Save and exit` : t`Exit`}
          </Link>
          {page.is_draft && (
            <Button disabled={drop.isPending} onClick={() => drop.mutate()}>
              {t`Discard draft`}
            </Button>
          )}
          <Button
            kind="strong"
            disabled={draft.saving === 'saved' && !page.is_draft}
            onClick={() => void draft.ready().then(setPublishing)}
          >{t`Publish`}</Button>
        </p>
        <Problem error={drop.error} />
      </BottomBar>
      {publishing && page.is_draft && (
        <PublishSheet
          course={course}
          page={page}
          onClose={() => setPublishing(false)}
          onPublished={(reply) => {
            draft.stand(reply)
            setPublishing(false)
          }}
        />
      )}
    </FamilyContext>
  )
}

const leavingOut = (data: Fields, more: string[]): Fields => {
  const old = Array.isArray(data.constraints) ? data.constraints : []
  return { ...data, constraints: [...old, ...more] }
}

function publishedWords({ published }: Workbench): string {
  if (!published) return t`Not published yet: no learner sees it.`
  const by = published.by ? t` by ${published.by}` : ''
  const at = published.at ? t` ${day(published.at)}` : ''
  return t`Revision ${published.number}, published${at}${by}.`
}

function Problems({ page }: { page: Workbench }) {
  return (
    <section aria-labelledby="problems">
      <h2 id="problems" className="text-xl">{t`No versions can be made yet`}</h2>
      <ul role="status" className="mt-2 grid gap-1">
        {page.problems.map(({ line, field, says }) => (
          <li key={`${line} ${field} ${says}`} className="text-wrong">
            {t`Line ${line}, ${field}: ${says}`}
          </li>
        ))}
      </ul>
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import { keys } from '../../api/keys'
import { Button, buttonClass } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, hour } from '../../ui/words'
import { CameraSheet } from './CameraSheet'
import { PageLine } from './PageLine'
import { PhoneLink } from './PhoneLink'
import { type Came, type Paper, paperCalls, paperQuery } from './queries'

const TAKES = 'image/jpeg,image/png,image/heic,image/heif,application/pdf'

/** Pages of paper of an attempt: added while they are taken, and to be seen afterwards. */
export default function PaperPage() {
  const id = Number(useParams().id)
  const query = useQuery(paperQuery(useCourse(), id))
  useTitle(t`Pages of paper`)
  return (
    <Loaded query={query} what={t`your pages`}>
      {(paper) => <Pages id={id} paper={paper} />}
    </Loaded>
  )
}

function Pages({ id, paper }: { id: number; paper: Paper }) {
  const course = useCourse()
  const to = useTo()
  const cache = useQueryClient()
  const calls = paperCalls(course, id)
  const [photographing, setPhotographing] = useState(false)
  const [asked, setAsked] = useState(false)
  const file = useRef<HTMLInputElement>(null)
  const open = paper.state === 'open'
  const change = useMutation({
    mutationFn: (act: () => Promise<Paper>) => act(),
    onSuccess: (found) => {
      cache.setQueryData(keys.paper(course, id), found)
      void cache.invalidateQueries({ queryKey: keys.receipt(course, id) })
    },
  })
  const add = (blob: Blob, came: Came) => change.mutate(() => calls.add(blob, came))
  const onPaper = paper.questions.filter((question) => question.on_paper)
  const covered = new Set(paper.pages.flatMap((page) => page.questions))
  const missing = onPaper.filter((question) => !covered.has(question.number))
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={to(`/tests/attempts/${id}/receipt`)}>{t`${paper.test}, receipt`}</TextLink>
      <h1 className="mt-1 text-3xl">{t`Pages of paper`}</h1>
      <p className="mt-1.5 max-w-2xl text-ink-2" aria-live="polite">
        {saysOf(paper)}
      </p>
      {open && (
        <>
          <div className="mt-5 flex flex-wrap gap-3">
            <Button kind="strong" onClick={() => file.current?.click()}>{t`Add files`}</Button>
            <Button onClick={() => setPhotographing(true)}>{t`Use this computer’s camera`}</Button>
            <input
              ref={file}
              type="file"
              accept={TAKES}
              multiple
              aria-label={t`Files with pages`}
              className="sr-only"
              tabIndex={-1}
              onChange={async (event) => {
                const files = [...(event.target.files ?? [])]
                event.target.value = ''
                for (const one of files)
                  await change.mutateAsync(() => calls.add(one, 'file')).catch(() => undefined)
              }}
            />
          </div>
          <PhoneLink make={calls.link} />
          <CameraSheet
            open={photographing}
            onClose={() => setPhotographing(false)}
            onPicture={(picture) => add(picture, 'camera')}
            count={paper.pages.length}
          />
        </>
      )}
      {change.isPending && <p className="mt-3 text-ink-2">{t`One moment…`}</p>}
      <Problem error={change.error} />
      <section aria-labelledby="pages" className="mt-7">
        <h2 id="pages" className="text-xl">
          {paper.pages.length === 0
            ? t`No pages added yet`
            : `${capital(counted(paper.pages.length, 'page'))} in`}
        </h2>
        {missing.length > 0 && (
          <p className="mt-1 text-part">
            {t`You said that your answer to ${missing
              .map(({ number, sheet }) => (sheet ? t`${number} (sheet ${sheet})` : `${number}`))
              .join(', ')} is on paper, but there is no page for it yet.`}
          </p>
        )}
        <ol className="mt-3 grid gap-4 @3xl:grid-cols-2 @5xl:grid-cols-3">
          {paper.pages.map((page, index) => (
            <PageLine
              key={page.id}
              attempt={id}
              page={page}
              questions={paper.questions}
              last={index === paper.pages.length - 1}
              change={
                open
                  ? {
                      set: (body) => change.mutate(() => calls.change(page.id, body)),
                      remove: () => change.mutate(() => calls.remove(page.id)),
                    }
                  : undefined
              }
            />
          ))}
        </ol>
      </section>
      <div className="mt-7 flex flex-wrap items-center gap-3">
        {open && !asked && (
          <Button kind="strong" onClick={() => setAsked(true)}>{t`That’s all my pages`}</Button>
        )}
        {open && asked && (
          <>
            <span>{t`You can’t add or change anything after that.`}</span>
            <Button
              kind="strong"
              disabled={change.isPending}
              onClick={() => change.mutate(calls.allIn)}
            >
              {paper.pages.length === 0 ? t`I have no pages` : t`Yes, that’s all`}
            </Button>
            <Button kind="quiet" onClick={() => setAsked(false)}>{t`Not yet`}</Button>
          </>
        )}
        <Link
          to={to(`/tests/attempts/${id}/results`)}
          className={buttonClass('quiet')}
        >{t`See the results`}</Link>
      </div>
    </main>
  )
}

function saysOf(paper: Paper): string {
  switch (paper.state) {
    case 'open':
      return t`You can add pages until ${paper.until ? hour(paper.until) : ''}, at most ${paper.most}. Make sure the whole sheet is in each photograph.`
    case 'all_in':
      return t`Your tutor has all your pages.`
    case 'over':
      return t`You can’t add pages any more. The pages you added count.`
    case 'before':
      return t`You add pages after handing in.`
    case 'not_wanted':
      return t`You don’t need to add pages to this test.`
  }
}

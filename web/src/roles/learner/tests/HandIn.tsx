import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Plus, X } from 'lucide-react'
import { useState } from 'react'
import { useCourse } from '../../../account/course'
import { useKept } from '../../../account/useKept'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { OwnFiles } from '../../../files/OwnFiles'
import { handInCalls, handInQuery } from '../../../files/queries'
import { useHandInFiles } from '../../../files/sources'
import { Button } from '../../../ui/Button'
import { fieldClass, Problem } from '../../../ui/Field'
import { Html } from '../../../ui/Html'
import { IconButton } from '../../../ui/IconButton'
import { Loaded } from '../../../ui/states'
import { moment } from '../../../ui/words'

type Page = Schemas['HandInOut']

/** What is handed in with set work: files and links, until it is said that it is all. */
export default function HandIn({ task }: { task: number }) {
  const query = useQuery(handInQuery(useCourse(), task))
  return (
    <Loaded query={query} what={t`what you hand in`}>
      {(page) => <Work page={page} task={task} />}
    </Loaded>
  )
}

function Work({ page, task }: { page: Page; task: number }) {
  const course = useCourse()
  const cache = useQueryClient()
  const calls = handInCalls(course, task)
  const onSuccess = (next: Page) => {
    cache.setQueryData(handInQuery(course, task).queryKey, next)
    void cache.invalidateQueries({ queryKey: keys.tasks(course) })
    void cache.invalidateQueries({ queryKey: keys.waitingWork(course) })
  }
  const handIn = useMutation({ mutationFn: calls.handIn, onSuccess })
  const takeBack = useMutation({ mutationFn: calls.takeBack, onSuccess })
  const source = useHandInFiles(course, task)
  const { handed_in: handedIn, mark } = page
  return (
    <section aria-labelledby="hand-in" className="mt-8 border-t border-line pt-5">
      <h2 id="hand-in" className="text-xl">{t`What you hand in`}</h2>
      {page.says_html && <Html html={page.says_html} className="prose-study mt-1" />}
      {page.files_wanted !== 'none' && (
        <div className="mt-4">
          <h3 className="mb-2 font-semibold">
            {page.files_wanted === 'must' ? t`Files` : t`Files (optional)`}
          </h3>
          <OwnFiles
            source={source}
            endings={page.endings}
            most={page.most}
            add={t`Add a file`}
            says={t`Pictures, documents, text, sound or film: up to ${page.most} files.`}
          />
        </div>
      )}
      {page.links_wanted !== 'none' && (
        <Links page={page} task={task} onKept={onSuccess} links={calls.links} />
      )}
      <p role="status" className="mt-5">
        {handedIn && <strong>{t`Handed in ${moment(handedIn)}.`}</strong>}
        {!handedIn && !page.closed && page.lacking}
      </p>
      {!handedIn && !page.closed && (
        <Button
          kind="strong"
          className="mt-2"
          disabled={page.lacking !== '' || handIn.isPending}
          onClick={() => handIn.mutate()}
        >{t`Hand in`}</Button>
      )}
      {handedIn && !mark && (
        <Button
          className="mt-2"
          disabled={takeBack.isPending}
          onClick={() => takeBack.mutate()}
        >{t`Take it back to change it`}</Button>
      )}
      <Problem error={handIn.error ?? takeBack.error} />
      {mark && <Marked mark={mark} />}
    </section>
  )
}

function Links(props: {
  page: Page
  task: number
  onKept: (next: Page) => void
  links: (links: string[]) => Promise<Page>
}) {
  const { page, task, onKept, links } = props
  const { value: typed, set, saved } = useKept(`hand-in:${task}`, () => '')
  const [shown, setShown] = useState(false)
  const keep = useMutation({ mutationFn: links, onSuccess: onKept })
  const add = () => {
    if (typed.trim() === '') return
    keep.mutate([...page.links, typed.trim()], { onSuccess: () => saved('') })
    setShown(true)
  }
  return (
    <div className="mt-5">
      <h3 className="mb-1 font-semibold">
        {page.links_wanted === 'must' ? t`Links` : t`Links (optional)`}
      </h3>
      <ul>
        {page.links.map((link) => (
          <li key={link} className="flex items-center gap-2">
            <a
              href={link}
              target="_blank"
              rel="noreferrer noopener"
              className="min-w-0 break-all text-gust hover:underline"
            >
              {link}
            </a>
            {!page.closed && (
              <IconButton
                icon={X}
                label={t`Remove ${link}`}
                act={() => keep.mutate(page.links.filter((one) => one !== link))}
              />
            )}
          </li>
        ))}
      </ul>
      {!page.closed && page.links.length < page.most_links && (
        <form
          className="mt-1 flex max-w-xl items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            add()
          }}
        >
          <input
            type="url"
            inputMode="url"
            aria-label={t`Address of a page`}
            placeholder="https://"
            maxLength={500}
            className={`${fieldClass} min-w-0 flex-1`}
            value={typed}
            onChange={(event) => set(event.target.value)}
          />
          <Button type="submit" disabled={keep.isPending || typed.trim() === ''}>
            <Plus size={18} aria-hidden="true" />
            {t`Add the link`}
          </Button>
        </form>
      )}
      {shown && <Problem error={keep.error} />}
    </div>
  )
}

function Marked({ mark }: { mark: NonNullable<Page['mark']> }) {
  return (
    <div className="mt-5 rounded-box bg-sheet p-5">
      <h3 className="text-lg">
        {mark.points !== null && mark.of !== null
          ? t`${mark.points} of ${mark.of} points`
          : t`Marked`}
      </h3>
      <p className="text-sm text-ink-2">{t`By ${mark.by}, ${moment(mark.at)}`}</p>
      {mark.comment && (
        <p className="mt-2 whitespace-pre-wrap border-l-4 border-sun pl-4">{mark.comment}</p>
      )}
    </div>
  )
}

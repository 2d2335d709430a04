import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { Button, buttonClass } from '../../../ui/Button'
import { fieldClass } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted, since } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { BankTable } from './BankTable'
import { Bulk } from './Bulk'
import { type BankPage as Bank, bankQuery, type Filter, writtenQuery } from './queries'

const SHOWN: [Filter['show'], string][] = [
  ['all', t`All questions`],
  ['needs', t`Need attention`],
  ['drafts', t`With a draft`],
  ['unmeasured', t`Not measured yet`],
  ['essential', t`Essential ones`],
  ['stopped', t`Stopped`],
  ['groups', t`Of groups`],
]
const SORTED: [Filter['sort'], string][] = [
  ['needs', t`what needs you`],
  ['apart', t`gap between estimate and measurement`],
  ['topic', t`topic`],
  ['title', t`title`],
  ['answers', t`first tries`],
  ['right', t`share that is right`],
  ['difficulty', t`difficulty`],
  ['took', t`time against the estimate`],
  ['separates', t`worst at telling learners apart`],
]

/** The bank of a course: what needs its author first, then every question. */
export default function BankPage({ home }: { home: string }) {
  const { course = '' } = useParams()
  const [params, setParams] = useSearchParams()
  const filter = {
    words: params.get('words') ?? '',
    topic: params.get('topic') ?? '',
    kind: params.get('kind') ?? '',
    show: (params.get('show') ?? 'all') as Filter['show'],
    sort: (params.get('sort') ?? 'needs') as Filter['sort'],
    page: Number(params.get('page') ?? 1),
  }
  const set = (next: Partial<Filter>) => {
    const all = Object.entries({ ...filter, page: 1, ...next })
    const kept = all.filter(([, value]) => value !== '' && value !== 1)
    setParams(new URLSearchParams(kept.map(([key, value]) => [key, String(value)])), {
      replace: true,
    })
  }
  const query = useQuery(bankQuery(course, filter))
  const written = useQuery(writtenQuery).data?.courses.find(({ key }) => key === course)
  const [chosen, setChosen] = useState<string[]>([])
  useTitle(t`Bank`)
  const at = `${home}/bank/${course}`
  return (
    <Loaded query={query} what={t`the bank`}>
      {(bank) => (
        <main id="main" className="px-5 py-6 @5xl:px-8">
          <div className="flex flex-wrap items-start justify-between gap-3">
            <div>
              <p className="text-ink-2 tabular-nums">
                {t`${bank.course}, ${counted(bank.families, 'question')}, ${bank.answers} first tries`}
              </p>
              <h1 className="text-3xl">{bank.headline}</h1>
            </div>
            <p className="flex flex-wrap gap-3">
              <Link to={`${at}/new`} className={buttonClass('strong')}>{t`New question`}</Link>
              <Link to={`${at}/examples`} className={buttonClass('plain')}>{t`From examples`}</Link>
            </p>
          </div>
          <Cards {...{ bank, course, at, home }} onAll={() => set({ show: 'needs' })} />
          <Begun bank={bank} at={at} />
          <div className="mt-5 flex flex-wrap items-end gap-3">
            <label className="grid gap-1">
              <span className="text-sm text-ink-2">{t`Words in title, prompt or feedback`}</span>
              <input
                type="search"
                className={`${fieldClass} w-64`}
                value={filter.words}
                onChange={({ target }) => set({ words: target.value })}
              />
            </label>
            <Pick
              label={t`Topic`}
              options={[
                ['', t`all`],
                ...(written?.topics ?? []).map(({ key, title }): [string, string] => [key, title]),
              ]}
              value={filter.topic}
              onChange={(topic) => set({ topic })}
            />
            <Pick
              label={t`Kind`}
              options={[
                ['', t`all`],
                ...(written?.kinds ?? []).map((kind): [string, string] => [kind, kind]),
              ]}
              value={filter.kind}
              onChange={(kind) => set({ kind })}
            />
            <Pick
              label={t`Show`}
              options={SHOWN}
              value={filter.show}
              onChange={(show) => set({ show: show as Filter['show'] })}
            />
            <Pick
              label={t`Sorted by`}
              options={SORTED}
              value={filter.sort}
              onChange={(sort) => set({ sort: sort as Filter['sort'] })}
            />
          </div>
          <p role="status" className="sr-only">
            {counted(bank.total, 'question')}
          </p>
          {chosen.length > 0 && filter.show !== 'groups' && (
            <Bulk
              {...{ course, chosen }}
              topics={written?.topics ?? []}
              onDone={() => setChosen([])}
            />
          )}
          <BankTable
            bank={bank}
            at={at}
            chosen={chosen}
            onChoose={(key, on) =>
              setChosen(on ? [...chosen, key] : chosen.filter((one) => one !== key))
            }
          />
          {bank.pages > 1 && (
            <nav aria-label={t`Pages`} className="mt-4 flex items-center gap-3">
              <Button
                disabled={bank.page === 1}
                onClick={() => set({ page: bank.page - 1 })}
              >{t`Previous page`}</Button>
              <span className="tabular-nums">{t`Page ${bank.page} of ${bank.pages}`}</span>
              <Button
                disabled={bank.page === bank.pages}
                onClick={() => set({ page: bank.page + 1 })}
              >{t`Next page`}</Button>
            </nav>
          )}
        </main>
      )}
    </Loaded>
  )
}

interface CardsProps {
  bank: Bank
  course: string
  at: string
  home: string
  onAll: () => void
}

function Cards({ bank, course, at, home, onAll }: CardsProps) {
  if (bank.cards.length + bank.sections.length === 0) return null
  return (
    <ul className="mt-4 grid gap-3 @3xl:grid-cols-2 @6xl:grid-cols-4">
      {bank.cards.map((card) => (
        <li key={card.key} className="rounded-box bg-sheet p-4">
          <TextLink to={`${at}/${card.key}`} className="text-lg font-semibold">
            {card.title}
          </TextLink>
          {card.says.slice(0, 2).map((says) => (
            <p key={says} className="text-ink-2">
              {says}
            </p>
          ))}
          {card.reports > 0 && (
            <p>
              <TextLink to={`${home}/faults`}>{t`Read the reports`}</TextLink>
            </p>
          )}
        </li>
      ))}
      {bank.sections.map((one) => (
        <li key={`${one.topic}#${one.section}`} className="rounded-box bg-sheet p-4">
          <TextLink
            to={`/author/course/${course}/pages/${one.topic}`}
            className="text-lg font-semibold"
          >
            {t`Study section: ${one.title}`}
          </TextLink>
          <p className="text-ink-2">{one.says}</p>
        </li>
      ))}
      {bank.cards.length === 4 && (
        <li className="sr-only">
          <Button onClick={onAll}>{t`All questions that need attention`}</Button>
        </li>
      )}
    </ul>
  )
}

function Begun({ bank, at }: { bank: Bank; at: string }) {
  if (bank.begun.length === 0) return null
  return (
    <div className="mt-4 flex flex-wrap gap-x-5 gap-y-1">
      <span>{t`Begun and not published:`}</span>
      {bank.begun.map(({ key, title, at: typed }) => (
        <span key={key}>
          <TextLink to={`${at}/${key}`}>{title}</TextLink>
          <span className="ml-1.5 text-ink-2">{t`${since(typed)} ago`}</span>
        </span>
      ))}
    </div>
  )
}

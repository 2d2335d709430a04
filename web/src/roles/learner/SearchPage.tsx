import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useDeferredValue } from 'react'
import { useSearchParams } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import type { Schemas } from '../../api/client'
import { Input, Labelled } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { counted, moment } from '../../ui/words'
import { searchQuery } from './queries'

/** A search over topics, study sections and one's own questions. */
export default function SearchPage() {
  useTitle(t`Search`)
  const [params, setParams] = useSearchParams()
  const words = params.get('words') ?? ''
  const asked = useDeferredValue(words.trim())
  const query = useQuery({ ...searchQuery(useCourse(), asked), enabled: asked !== '' })
  return (
    <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Search`}</h1>
      <Labelled label={t`Topics, study pages and your own questions`} className="mt-3 max-w-lg">
        <Input
          type="search"
          autoFocus
          value={words}
          maxLength={80}
          onChange={(event) =>
            setParams(event.target.value ? { words: event.target.value } : {}, { replace: true })
          }
        />
      </Labelled>
      {asked !== '' && (
        <Loaded query={query} what={t`what was found`}>
          {(found) => <Found found={found} />}
        </Loaded>
      )}
    </main>
  )
}

function Found({ found }: { found: Schemas['SearchOut'] }) {
  const to = useTo()
  const { topics, sections, tries } = found
  const all = topics.length + sections.length + tries.length
  return (
    <>
      <p role="status" className="mt-4 text-ink-2">
        {all === 0
          ? t`Nothing found. Try fewer or shorter words.`
          : t`${counted(all, 'thing')} found`}
      </p>
      <Hits title={t`Topics`}>
        {topics.map((topic) => (
          <TextLink key={topic.key} to={to(`/topics/${topic.key}`)}>
            {topic.title}
          </TextLink>
        ))}
      </Hits>
      <Hits title={t`Study pages`}>
        {sections.map((one) => (
          <TextLink
            key={`${one.topic}#${one.section}`}
            to={to(`/study/${one.topic}#${one.section}`)}
          >{t`${one.title}, ${one.minutes} min`}</TextLink>
        ))}
      </Hits>
      <Hits title={t`Your questions`}>
        {tries.map((one) => (
          <span key={one.id}>
            <TextLink to={to(`/record/tries/${one.id}`)}>{one.title}</TextLink>
            <span className="block text-sm text-ink-2">
              {one.topic.title}, {moment(one.at)}
            </span>
          </span>
        ))}
      </Hits>
    </>
  )
}

function Hits({ title, children }: { title: string; children: ReactNode[] }) {
  if (children.length === 0) return null
  return (
    <section className="mt-6">
      <h2 className="text-xl">{title}</h2>
      <ul className="mt-1">
        {children.map((child, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: hits are made anew with every search
          <li key={i} className="border-b border-line py-2">
            {child}
          </li>
        ))}
      </ul>
    </section>
  )
}

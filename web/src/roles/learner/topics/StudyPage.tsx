import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link, useLocation, useParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { studyQuery } from '../../../study/queries'
import { SectionText } from '../../../study/SectionText'
import { Button } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'

/** A topic's study page; the section in the address is the one opened. */
export default function StudyPage() {
  const { key = '' } = useParams()
  const { hash } = useLocation()
  const course = useCourse()
  const to = useTo()
  const query = useQuery(studyQuery(course, key))
  const wanted = hash.slice(1)
  const sections = query.data?.sections
  useTitle(query.data ? t`Study ${query.data.topic.title.toLowerCase()}` : t`Study`)
  useEffect(() => {
    if (sections && wanted) document.getElementById(wanted)?.scrollIntoView()
  }, [sections, wanted])
  return (
    <Loaded query={query} what={t`the study page`}>
      {(page) => (
        <main
          id="main"
          className="grid gap-10 px-5 py-8 @4xl:grid-cols-[15rem_minmax(0,1fr)] @5xl:px-8"
        >
          <nav aria-label={t`Sections`} className="text-[0.95rem]">
            <TextLink to={to(`/topics/${page.topic.key}`)}>{page.topic.title}</TextLink>
            <ul className="mt-3 grid gap-2 border-l-2 border-line pl-4">
              {page.sections.map((section) => (
                <li key={section.key}>
                  <Link
                    to={`#${section.key}`}
                    aria-current={wanted === section.key || undefined}
                    className={
                      wanted === section.key ? 'font-semibold' : 'text-ink-2 hover:text-ink'
                    }
                  >
                    {t`${section.title}, ${section.minutes} min`}
                  </Link>
                </li>
              ))}
            </ul>
          </nav>
          <article className="max-w-3xl rounded-box bg-sheet px-6 py-7 @3xl:px-10">
            <h1 className="text-3xl">{page.topic.title}</h1>
            {page.sections.map((section) => (
              <section key={section.key} id={section.key} className="mt-8 scroll-mt-6">
                <h2 className="text-2xl">{section.title}</h2>
                <Section
                  title={section.title}
                  topic={key}
                  section={section.key}
                  wanted={!wanted || wanted === section.key}
                />
              </section>
            ))}
          </article>
        </main>
      )}
    </Loaded>
  )
}

/** A section's text once it is opened: by its address, with the whole page, or by the button. */
function Section({
  topic,
  section,
  title,
  wanted,
}: {
  topic: string
  section: string
  title: string
  wanted: boolean
}) {
  const [opened, setOpened] = useState(wanted)
  if (wanted && !opened) setOpened(true)
  if (opened) return <SectionText topic={topic} section={section} />
  return (
    <Button
      className="mt-3"
      aria-label={t`Read this section: ${title}`}
      onClick={() => setOpened(true)}
    >{t`Read this section`}</Button>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { composingQuery } from './queries'

/** Courses that one composes tests for. */
export default function ComposingPage({ home }: { home: string }) {
  const query = useQuery(composingQuery)
  useTitle(t`Tests`)
  return (
    <Loaded query={query} what={t`your courses`}>
      {({ courses }) => (
        <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
          <h1 className="text-3xl">{t`Tests`}</h1>
          <ul className="mt-4">
            {courses.map((course) => (
              <li key={course.key} className="border-b border-line py-3">
                <TextLink to={`${home}/tests/${course.key}`} className="text-lg font-semibold">
                  {course.title}
                </TextLink>
              </li>
            ))}
          </ul>
        </main>
      )}
    </Loaded>
  )
}

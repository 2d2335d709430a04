import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useCourse } from '../../../account/course'
import { Check } from '../../../ui/Check'
import { Loaded } from '../../../ui/states'
import { counted } from '../../../ui/words'
import { topicsQuery } from '../queries'

/** Topics to choose from, by subject; those that are not taught yet cannot be chosen. */
export function TopicPicker({
  chosen,
  onChange,
}: {
  chosen: string[]
  onChange: (topics: string[]) => void
}) {
  const query = useQuery(topicsQuery(useCourse()))
  return (
    <Loaded query={query} what={t`the topics`}>
      {({ subjects }) => (
        <fieldset>
          <legend className="text-sm text-ink-2">{t`Topics`}</legend>
          <div className="mt-1 grid gap-x-8 gap-y-4 @3xl:grid-cols-2 @5xl:grid-cols-3">
            {subjects.map((subject) => (
              <div key={subject.key}>
                <p className="font-heading font-semibold text-ink-2">{subject.title}</p>
                {subject.topics.map((topic) => (
                  <Check
                    key={topic.key}
                    disabled={topic.state === 'not_yet'}
                    on={chosen.includes(topic.key)}
                    set={(on) =>
                      onChange(
                        on ? [...chosen, topic.key] : chosen.filter((one) => one !== topic.key),
                      )
                    }
                  >
                    {topic.title}
                    {topic.misses > 0 && (
                      <span className="text-sm text-ink-2">{counted(topic.misses, 'mistake')}</span>
                    )}
                  </Check>
                ))}
              </div>
            ))}
          </div>
        </fieldset>
      )}
    </Loaded>
  )
}

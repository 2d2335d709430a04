import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Button } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { moment } from '../../../ui/words'
import { type Section, studyHistoryQuery } from './queries'

interface Props {
  course: string
  topic: string
  /** Whether something typed would be lost. */
  changed: boolean
  onRestore: (sections: Section[]) => void
}

/** How a study page was before; any of it can be put back into the editor. */
export function PageHistory({ course, topic, changed, onRestore }: Props) {
  const query = useQuery(studyHistoryQuery(course, topic))
  return (
    <Loaded query={query} what={t`the history`}>
      {({ revisions }) => (
        <>
          {changed && (
            <p className="mt-1 text-ink-2">{t`Publish or discard your changes before you restore an earlier page.`}</p>
          )}
          <ol>
            {revisions.map((one, place) => (
              <li
                key={one.at}
                className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line py-2"
              >
                <span className="min-w-44 text-ink-2">
                  {`${moment(one.at)}, ${one.by || t`from the pack`}`}
                </span>
                <span className="min-w-0 flex-1">{one.why}</span>
                {place === 0 ? (
                  <span className="text-ink-2">{t`now`}</span>
                ) : (
                  <Button
                    kind="quiet"
                    aria-label={t`Restore the page of ${moment(one.at)}`}
                    disabled={changed}
                    onClick={() => onRestore(one.sections)}
                  >{t`Restore`}</Button>
                )}
              </li>
            ))}
          </ol>
        </>
      )}
    </Loaded>
  )
}

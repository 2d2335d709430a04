import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Problem } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { Loaded } from '../../../ui/states'
import { WhyField } from '../WhyField'
import { publishFamily, publishingQuery, type Workbench } from './queries'

interface Props {
  course: string
  page: Workbench
  onClose: () => void
  onPublished: (reply: Workbench) => void
}

/** What publishing would do, said first; then a reason, and it is in force. */
export function PublishSheet({ course, page, onClose, onPublished }: Props) {
  const query = useQuery(publishingQuery(course, page.key, page.version))
  const [why, setWhy] = useState('')
  const [keeps, setKeeps] = useState<boolean | null>(null)
  const publish = useMutation({
    mutationFn: (kept: boolean) =>
      publishFamily(course, page.key, { version: page.version, why, keeps: kept }),
    onSuccess: onPublished,
  })
  return (
    <Sheet open onOpenChange={onClose} title={t`Publish this draft`}>
      <Loaded query={query} what={t`a check of all versions`}>
        {({ problems, changes, means, keeps: suggested }) => (
          <form
            className="mt-4 grid gap-5"
            onSubmit={(event) => {
              event.preventDefault()
              publish.mutate(keeps ?? suggested)
            }}
          >
            {problems.length > 0 ? (
              <div role="alert">
                <p className="font-semibold text-wrong">{t`It can’t be published yet:`}</p>
                <ul className="mt-1 list-disc pl-5">
                  {problems.map(({ line, field, says }) => (
                    <li key={`${line} ${field} ${says}`}>{t`Line ${line}, ${field}: ${says}`}</li>
                  ))}
                </ul>
              </div>
            ) : (
              <p className="text-correct">{t`All versions were checked, and nothing is wrong.`}</p>
            )}
            {changes.length > 0 && (
              <section>
                <h3 className="text-lg">{t`What changes`}</h3>
                <ul className="mt-1 list-disc pl-5">
                  {changes.map(({ says }) => (
                    <li key={says}>{says}</li>
                  ))}
                </ul>
              </section>
            )}
            <section>
              <h3 className="text-lg">{t`What it means for others`}</h3>
              <ul className="mt-1 list-disc pl-5">
                {means.map((says) => (
                  <li key={says}>{says}</li>
                ))}
              </ul>
            </section>
            {page.published && (
              <div>
                <Check
                  on={keeps ?? suggested}
                  set={setKeeps}
                >{t`Answers given so far still count towards its difficulty`}</Check>
                <p className="text-sm text-ink-2">
                  {suggested
                    ? t`Suggested: yes. Only wording, numbers or estimates change.`
                    : t`Suggested: no. The question or its right answer changes.`}
                </p>
              </div>
            )}
            <WhyField value={why} onText={setWhy} />
            <p>
              <Button
                type="submit"
                kind="strong"
                disabled={problems.length > 0 || publish.isPending || why.trim().length < 3}
              >{t`Publish`}</Button>
            </p>
            <Problem error={publish.error} />
          </form>
        )}
      </Loaded>
    </Sheet>
  )
}

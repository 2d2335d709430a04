import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { Pick } from '../../composing/Pick'
import { Lines } from './ChangesSheet'
import { mergeTopics, mergingQuery, type Structure, type Topic } from './queries'

interface Props {
  course: string
  topic: Topic
  others: Topic[]
  onClose: () => void
  onMerged: (next: Structure) => void
}

/** A topic put into another: what moves and what it means for learners, said first. */
export function MergeSheet({ course, topic, others, onClose, onMerged }: Props) {
  const [into, setInto] = useState('')
  const body = { topic: topic.key, into }
  const { data, error } = useQuery({ ...mergingQuery(course, body), enabled: into !== '' })
  const merge = useMutation({ mutationFn: () => mergeTopics(course, body), onSuccess: onMerged })
  return (
    <Sheet open onOpenChange={onClose} title={t`Merge ${topic.title}`}>
      <div className="mt-4 grid gap-5">
        <Pick
          label={t`Into the topic`}
          options={[
            ['', t`choose one`],
            ...others.map(({ key, title }): [string, string] => [key, title]),
          ]}
          value={into}
          onChange={setInto}
        />
        <Problem error={error} />
        {data && (
          <>
            <Lines title={t`What it means`} lines={data.means} none={t`Nothing.`} />
            <p>
              <Button
                kind="strong"
                disabled={merge.isPending}
                onClick={() => merge.mutate()}
              >{t`Merge`}</Button>
            </p>
          </>
        )}
        <Problem error={merge.error} />
      </div>
    </Sheet>
  )
}

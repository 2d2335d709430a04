import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useCourse } from '../account/course'
import { Sheet } from '../ui/Sheet'
import { Loaded } from '../ui/states'
import { whyQuery } from './requests'

/** Why this question was asked, from what was stored with it. */
export function WhySheet({
  open,
  onOpenChange,
  question,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  question: number
}) {
  return (
    <Sheet open={open} onOpenChange={onOpenChange} title={t`Why this question`}>
      {open && <Reasons question={question} />}
    </Sheet>
  )
}

function Reasons({ question }: { question: number }) {
  const query = useQuery(whyQuery(useCourse(), question))
  return (
    <Loaded query={query} what={t`the reasons`}>
      {({ sentences }) => (
        <div className="mt-4 grid max-w-prose gap-3 text-lg">
          {sentences.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
        </div>
      )}
    </Loaded>
  )
}

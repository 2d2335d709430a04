import { t } from '@lingui/core/macro'
import { DropdownMenu } from 'radix-ui'
import { useCourse } from '../../../account/course'
import type { Step } from '../../../api/client'
import { inDays, longDay } from '../../../ui/words'
import { useStepChoice } from '../queries'

const item = 'cursor-pointer rounded-md px-3 py-2 outline-none data-highlighted:bg-gust-soft'
const DAYS = [1, 2, 3, 7]

/** A step can be put off to a day, or turned down. today: the day where the school is. */
export default function StepChoices({ step, today }: { step: Step; today: string }) {
  const { aside } = useStepChoice(useCourse())
  const put = (until: string | null) => aside.mutate({ step: step.key, title: step.title, until })
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={t`Not now: ${step.title}`}
        disabled={aside.isPending}
        className="min-h-10 rounded-lg px-2 text-ink-2 hover:text-ink hover:underline"
      >{t`Not now`}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-20 min-w-52 rounded-box border border-line bg-sheet p-2 text-ink shadow-lg"
        >
          {DAYS.map((days) => {
            const day = inDays(today, days)
            return (
              <DropdownMenu.Item key={days} className={item} onSelect={() => put(day)}>
                {days === 1 ? t`Tomorrow` : longDay(day)}
              </DropdownMenu.Item>
            )
          })}
          <DropdownMenu.Item
            className={item}
            onSelect={() => put(null)}
          >{t`Hide it`}</DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

import { t } from '@lingui/core/macro'
import { Dialog } from 'radix-ui'
import { Button } from '../../ui/Button'

type Leaving = 'question' | 'page' | 'section'

const ASKED: Record<Leaving, string> = {
  question: t`Go to the next question?`,
  page: t`Go to the next page?`,
  section: t`Go to the next section?`,
}
const ANSWERED: Record<Leaving, string> = {
  question: t`You can’t come back to this question.`,
  page: t`You can’t come back to this page.`,
  section: t`You can’t come back to this section.`,
}
const NOT_ANSWERED: Record<Leaving, string> = {
  question: t`You haven’t fully answered this question, and you can’t come back to it.`,
  page: t`You haven’t answered everything on this page, and you can’t come back to it.`,
  section: t`You haven’t answered everything here, and you can’t come back to this section.`,
}

interface Props {
  open: boolean
  /** What is left for good, for the next of its kind. */
  to: Leaving
  answered: boolean
  onClose: () => void
  onGoOn: () => Promise<void>
}

/** Asked before each step that there is no way back from. */
export function MoveOn({ open, to, answered, onClose, onGoOn }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-box bg-sheet p-6 shadow-xl">
          <Dialog.Title className="text-xl">{ASKED[to]}</Dialog.Title>
          <Dialog.Description className="mt-2 text-ink-2">
            {answered ? ANSWERED[to] : NOT_ANSWERED[to]}
          </Dialog.Description>
          <div className="mt-5 flex gap-3">
            <Button kind="strong" onClick={() => void onGoOn()}>{t`Go on`}</Button>
            <Button kind="quiet" onClick={onClose}>{t`Stay here`}</Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

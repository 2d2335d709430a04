import { t } from '@lingui/core/macro'
import { Dialog } from 'radix-ui'
import { Button } from '../../ui/Button'

interface Props {
  open: boolean
  /** Whether a whole section is left, not one question. */
  section: boolean
  answered: boolean
  onClose: () => void
  onGoOn: () => Promise<void>
}

/** Asked before each step that there is no way back from. */
export function MoveOn({ open, section, answered, onClose, onGoOn }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-box bg-sheet p-6 shadow-xl">
          <Dialog.Title className="text-xl">
            {section ? t`Go to the next section?` : t`Go to the next question?`}
          </Dialog.Title>
          <Dialog.Description className="mt-2 text-ink-2">
            {section
              ? t`You can’t come back to this section.`
              : answered
                ? t`You can’t come back to this question.`
                : t`You haven’t fully answered this question, and you can’t come back to it.`}
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

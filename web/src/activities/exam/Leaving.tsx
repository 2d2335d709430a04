import { t } from '@lingui/core/macro'
import { Dialog } from 'radix-ui'
import { Button } from '../../ui/Button'
import type { Attempt } from './queries'

interface Props {
  attempt: Attempt
  open: boolean
  onClose: () => void
  onLeave: () => void
}

/** What leaving does, before it is done. */
export function Leaving({ attempt, open, onClose, onLeave }: Props) {
  const says = attempt.one_sitting
    ? t`You must finish this test in one go. If you leave, it is handed in as it is now. You can’t undo that.`
    : attempt.left === null
      ? t`Everything is saved. You can come back at any time.`
      : attempt.stops
        ? t`Everything is saved. The clock stops until you come back.`
        : t`Everything is saved. The clock keeps running while you are away.`
  return (
    <Dialog.Root open={open} onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 w-[min(30rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-box bg-sheet p-6 shadow-xl">
          <Dialog.Title className="text-xl">
            {attempt.one_sitting ? t`Leave and hand in?` : t`Leave the test?`}
          </Dialog.Title>
          <Dialog.Description className="mt-2 text-ink-2">{says}</Dialog.Description>
          <div className="mt-5 flex flex-wrap gap-3">
            <Button kind={attempt.one_sitting ? 'plain' : 'strong'} onClick={onLeave}>
              {attempt.one_sitting ? t`Leave and hand in` : t`Leave`}
            </Button>
            <Button kind="quiet" onClick={onClose}>{t`Stay`}</Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

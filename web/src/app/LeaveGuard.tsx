import { t } from '@lingui/core/macro'
import { AlertDialog } from 'radix-ui'
import { useBlocker } from 'react-router'
import { somethingUnsaved } from '../account/unsaved'
import { Button } from '../ui/Button'

/** Asks before a page is left on which something was typed that is not saved. */
export default function LeaveGuard() {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      somethingUnsaved() && currentLocation.pathname !== nextLocation.pathname,
  )
  if (blocker.state !== 'blocked') return null
  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-ink/45" />
        <AlertDialog.Content
          onEscapeKeyDown={() => blocker.reset()}
          className="fixed top-1/4 left-1/2 w-[min(30rem,92vw)] -translate-x-1/2 rounded-box bg-sheet p-6 shadow-xl"
        >
          <AlertDialog.Title className="text-xl">{t`This is not saved yet`}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2">{t`What you typed is kept in this browser until you come back. Nobody else sees it.`}</AlertDialog.Description>
          <div className="mt-4 flex flex-wrap gap-3">
            <AlertDialog.Cancel asChild>
              <Button kind="strong" onClick={() => blocker.reset()}>{t`Stay here`}</Button>
            </AlertDialog.Cancel>
            <Button onClick={() => blocker.proceed()}>{t`Leave`}</Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  )
}

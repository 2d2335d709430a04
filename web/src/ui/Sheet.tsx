import { t } from '@lingui/core/macro'
import { X } from 'lucide-react'
import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

/** A sheet over the page, closed with Escape or its button. */
export function Sheet({
  open,
  onOpenChange,
  title,
  children,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  title: string
  children: ReactNode
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 w-full max-w-2xl overflow-y-auto bg-sheet p-6 shadow-xl"
        >
          <div className="flex items-start justify-between gap-4">
            <Dialog.Title className="text-2xl">{title}</Dialog.Title>
            <Dialog.Close className="rounded-lg p-2 hover:bg-sky" aria-label={t`Close`}>
              <X size={20} aria-hidden="true" />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

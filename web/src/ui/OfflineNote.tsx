import { t } from '@lingui/core/macro'
import { useSyncExternalStore } from 'react'

function subscribe(listener: () => void) {
  window.addEventListener('online', listener)
  window.addEventListener('offline', listener)
  return () => {
    window.removeEventListener('online', listener)
    window.removeEventListener('offline', listener)
  }
}

const useOnline = () => useSyncExternalStore(subscribe, () => navigator.onLine)

/** Says that the connection is gone, for as long as it is. */
export function OfflineNote() {
  const online = useOnline()
  return (
    <div role="status">
      {!online && (
        <p className="bg-part-soft px-5 py-2 text-part">{t`You are offline. What you’ve typed is saved here and will be sent when you are back online.`}</p>
      )}
    </div>
  )
}

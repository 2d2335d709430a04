import { t } from '@lingui/core/macro'
import { Button } from '../ui/Button'
import type { RunActions } from './useRun'

/** What became of what was just sent, as long as it has not arrived. */
export function SendState({ actions }: { actions: RunActions }) {
  return (
    <div aria-live="assertive">
      {actions.waiting && (
        <p className="mt-5 max-w-[45rem] rounded-box bg-part-soft p-4 text-part">{t`Not sent yet: you are offline. Your answer is saved here and will be sent when you are back online.`}</p>
      )}
      {actions.soon && (
        <p className="mt-5 max-w-[45rem] rounded-box bg-rail p-4">{t`Still sending. Please wait.`}</p>
      )}
      {actions.problem && (
        <div className="mt-5 max-w-[45rem] rounded-box bg-wrong-soft p-4 text-wrong">
          {actions.problem}
          {actions.again && (
            <Button className="mt-3 block" onClick={actions.again}>{t`Try again`}</Button>
          )}
        </div>
      )}
    </div>
  )
}

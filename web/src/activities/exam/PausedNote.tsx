import { t } from '@lingui/core/macro'
/** In the place of the questions while the tutor has stopped the clock. */
export function PausedNote({ why }: { why: string }) {
  return (
    <div role="alert" className="mx-auto max-w-xl px-5 py-16">
      <h2 className="text-2xl">{t`The test is paused`}</h2>
      {why && <p className="mt-2 text-lg">{why}</p>}
      <p className="mt-2 text-ink-2">{t`Your tutor has stopped the clock. Your answers are saved and you lose no time. The questions come back when the test continues.`}</p>
    </div>
  )
}

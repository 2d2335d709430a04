import { t } from '@lingui/core/macro'
import type { Schemas } from '../api/client'
import { Html } from '../ui/Html'
import { LargeFigure } from './Figure'

/** A worked solution, step by step, with its figure and source. */
export function Solution({
  steps,
  source,
  figure,
  heading = t`Working`,
}: {
  steps: string[]
  source: string | null
  figure?: Schemas['FigureOut'] | null
  heading?: string
}) {
  return (
    <section className="mt-6 max-w-[42rem]">
      <h2 className="text-xl">{heading}</h2>
      {figure && <LargeFigure figure={figure} className="mt-3 max-w-[30rem]" />}
      <ol className="mt-2 grid gap-2.5">
        {steps.map((step, i) => (
          <li key={step} className="grid grid-cols-[1.75rem_1fr] text-[1.05rem]">
            <span aria-hidden="true" className="font-semibold text-ink-3">
              {i + 1}
            </span>
            <Html html={step} />
          </li>
        ))}
      </ol>
      {source && <p className="mt-3 text-sm text-ink-3">{t`Source: ${source}`}</p>}
    </section>
  )
}

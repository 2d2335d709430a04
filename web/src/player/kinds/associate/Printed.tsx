import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import { linesOf } from '../../values'
import { PaperLine } from '../shared/paper'
import type { PrintedProps } from '../view'

/** The items, and the pairs that were made or room for them. */
export function Printed({ part, value }: PrintedProps<'associate'>) {
  const html = new Map(part.items.map((item) => [item.id, item.html]))
  const pairs = linesOf(value).map((line) => line.split(' '))
  return (
    <>
      <ul aria-label={t`To join`} className="mb-3 flex flex-wrap gap-x-6 gap-y-1">
        {part.items.map((item) => (
          <li key={item.id} className="border border-ink px-2">
            <Html html={item.html} inline />
          </li>
        ))}
      </ul>
      <ol className="grid max-w-[42rem] gap-1.5">
        {Array.from({ length: part.pairs }, (_, i) => {
          const [one = '', other = ''] = pairs[i] ?? []
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a pair has no identity but its place
            <li key={i} className="grid grid-cols-[1fr_auto_1fr] gap-3">
              <PaperLine given={<Html html={html.get(one) ?? ''} inline />} wide />
              {t`with`}
              <PaperLine given={<Html html={html.get(other) ?? ''} inline />} wide />
            </li>
          )
        })}
      </ol>
    </>
  )
}

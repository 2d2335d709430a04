import { t } from '@lingui/core/macro'
import { Suspense, useContext } from 'react'
import { Files, PartFiles } from '../../../files/lazily'
import { FilesAt } from '../../../files/place'
import { Check } from '../../../ui/Check'
import { PartGroup } from '../shared/PartGroup'
import { NOT_MARKED } from '../shared/written'
import type { PartOf, PartProps } from '../view'

const ON_PAPER = t`done on paper`

const taken = ({ endings, most, megabytes }: PartOf<'upload'>) =>
  t`Up to ${most} files of ${megabytes}\u00a0MB: ${endings.join(', ')}.`

/** Files as an answer, or work on paper that is shown or photographed. */
export function Answer({ part, state, value, onChange, review }: PartProps<'upload'>) {
  const closed = state.state !== 'open'
  const at = useContext(FilesAt)
  const onPaper = value === ON_PAPER
  return (
    <PartGroup
      label={part.label || t`Your files`}
      closed={closed}
      note={NOT_MARKED}
      review={review}
    >
      <div className="max-w-[42rem] rounded-box border-2 border-edge border-dashed bg-sheet px-4 py-3">
        <Suspense fallback={<p className="text-ink-2">{t`Loading…`}</p>}>
          {!at || !('course' in at.whose) || closed ? (
            <NamedOrShown at={at} part={part} value={value} closed={closed} onChange={onChange} />
          ) : (
            !onPaper && (
              <PartFiles
                at={at}
                course={at.whose.course}
                part={part.id}
                endings={part.endings}
                most={part.most}
                add={t`Add a file`}
                says={taken(part)}
                onNames={(names) => {
                  const next = names.join('\n')
                  if (next !== value && !onPaper) onChange(next)
                }}
              />
            )
          )}
        </Suspense>
        {!closed && (value === '' || onPaper) && (
          <Check on={onPaper} set={(on) => onChange(on ? ON_PAPER : '')}>
            {t`I have done this on paper`}
          </Check>
        )}
      </div>
    </PartGroup>
  )
}

/** What was sent; or where nothing is sent, as in a preview, what would be. */
function NamedOrShown({
  at,
  part,
  value,
  closed,
  onChange,
}: {
  at: React.ContextType<typeof FilesAt>
  part: PartOf<'upload'>
  value: string
  closed: boolean
  onChange: (value: string) => void
}) {
  if (at) return <Files at={at} part={part.id} />
  return (
    <>
      {value !== '' && <p className="whitespace-pre-line">{value}</p>}
      {!closed && value !== ON_PAPER && (
        <label className="block">
          <span className="block text-sm text-ink-2">
            {taken(part)} {t`Nothing is sent from this page.`}
          </span>
          <input
            type="file"
            multiple={part.most > 1}
            accept={part.endings.map((one) => `.${one}`).join(',')}
            className="mt-1 max-w-full"
            onChange={(event) =>
              onChange([...(event.target.files ?? [])].map((one) => one.name).join('\n'))
            }
          />
        </label>
      )}
    </>
  )
}

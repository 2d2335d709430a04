import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { CameraSheet } from '../activities/paper/CameraSheet'
import { PhoneLink } from '../activities/paper/PhoneLink'
import { Button } from '../ui/Button'
import { FileLines } from './FileLines'
import { OwnFiles } from './OwnFiles'
import type { FilesPlace } from './place'
import { fileCalls, filesQuery } from './queries'
import { useQuestionFiles } from './sources'

const PHOTOGRAPH = 'photograph.jpg'

/** Working on paper beside an answer: photographs by file, camera or phone; for others, to look
 * at. */
export function PaperSheets({ at, look }: { at: FilesPlace; look?: boolean }) {
  const { whose } = at
  return 'course' in whose && !look ? <Own at={at} course={whose.course} /> : <Others at={at} />
}

function Own({ at, course }: { at: FilesPlace; course: string }) {
  const [phone, setPhone] = useState(false)
  const [camera, setCamera] = useState(false)
  const [open, setOpen] = useState(false)
  const source = useQuestionFiles(at, course, '', phone)
  const rules = useQuery(filesQuery(at)).data
  const none = !source.files?.length
  if (!rules || (none && source.closed)) return null
  if (none && !open)
    return (
      <p className="mt-6">
        <Button kind="quiet" onClick={() => setOpen(true)}>{t`Add working on paper`}</Button>
      </p>
    )
  return (
    <section aria-label={t`Working on paper`} className="mt-6 max-w-[45rem]">
      <h3 className="mb-2 text-lg">{t`Working on paper`}</h3>
      <OwnFiles
        source={source}
        endings={rules.endings}
        most={rules.most}
        add={t`Add a photograph`}
        says={t`Of what you worked out on paper. Your tutor sees it beside your answer.`}
        ways={(send, count) => (
          <>
            <Button kind="quiet" onClick={() => setCamera(true)}>{t`Use the camera`}</Button>
            <Button kind="quiet" onClick={() => setPhone(!phone)}>{t`Use your phone`}</Button>
            {camera && (
              <CameraSheet
                open
                onClose={() => setCamera(false)}
                count={count}
                onPicture={(picture) =>
                  send(new File([picture], PHOTOGRAPH, { type: 'image/jpeg' }))
                }
              />
            )}
          </>
        )}
      />
      {phone && <PhoneLink make={fileCalls(course, at.question).link} />}
    </section>
  )
}

function Others({ at }: { at: FilesPlace }) {
  const query = useQuery(filesQuery(at))
  const files = (query.data?.files ?? []).filter((one) => one.part === '' && one.arrived)
  if (files.length === 0) return null
  return (
    <section aria-label={t`Working on paper`} className="mt-6 max-w-[45rem]">
      <h3 className="mb-2 text-lg">{t`Working on paper`}</h3>
      <FileLines files={files} />
    </section>
  )
}

import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { FileLines } from './FileLines'
import type { FilesPlace } from './place'
import { filesQuery } from './queries'

/** Files of a part as they stand, for whoever may see them. */
export function Files({ at, part }: { at: FilesPlace; part: string }) {
  const query = useQuery(filesQuery(at))
  if (!query.data) return null
  const files = query.data.files.filter((one) => one.part === part && one.arrived)
  if (files.length === 0) return <p className="text-ink-2">{t`No files.`}</p>
  return <FileLines files={files} />
}

import { t } from '@lingui/core/macro'
import { Download, X } from 'lucide-react'
import { IconButton } from '../ui/IconButton'
import { moment } from '../ui/words'
import type { StoredFile } from './queries'
import { size } from './size'

/** Files that are there: pages to look at, the file to save, and when it arrived. */
export function FileLines({
  files,
  onRemove,
}: {
  files: StoredFile[]
  onRemove?: (file: StoredFile) => void
}) {
  return (
    <ul className="grid gap-3">
      {files.map((file) => (
        <li key={file.id} className="flex flex-wrap items-start gap-x-4 gap-y-2">
          {Array.from({ length: file.drawn }, (_, i) => `${file.path}/pages/${i + 1}`).map(
            (page, i) => (
              <a key={page} href={page} target="_blank" rel="noreferrer">
                <img
                  src={`${page}?small=true`}
                  alt={t`${file.name}, page ${i + 1}, in full in a new window`}
                  className="h-36 rounded-lg border border-line bg-rail object-contain"
                />
              </a>
            ),
          )}
          <p className="min-w-0 flex-1 basis-40">
            <span className="break-words font-semibold">{file.name}</span>
            <span className="block text-sm text-ink-2">
              {size(file.size)}
              {file.arrived && t`, arrived ${moment(file.arrived)}`}
            </span>
            <a
              href={`${file.path}/content`}
              download
              className="mt-1 inline-flex items-center gap-1.5 text-gust hover:underline"
            >
              <Download size={16} aria-hidden="true" />
              {t`Save the file`}
            </a>
          </p>
          {onRemove && (
            <IconButton icon={X} label={t`Remove ${file.name}`} act={() => onRemove(file)} />
          )}
        </li>
      ))}
    </ul>
  )
}

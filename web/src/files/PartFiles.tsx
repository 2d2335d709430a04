import type { ComponentProps } from 'react'
import { OwnFiles } from './OwnFiles'
import type { FilesPlace } from './place'
import { useQuestionFiles } from './sources'

type Rest = Omit<ComponentProps<typeof OwnFiles>, 'source'>

/** Files of one's own in the answer to a part of a question. */
export function PartFiles({
  at,
  course,
  part,
  ...rest
}: { at: FilesPlace; course: string; part: string } & Rest) {
  return <OwnFiles source={useQuestionFiles(at, course, part)} {...rest} />
}

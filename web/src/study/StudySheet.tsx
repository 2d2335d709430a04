import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useCourse } from '../account/course'
import type { Schemas } from '../api/client'
import { keys } from '../api/keys'
import { Sheet } from '../ui/Sheet'
import { SectionText } from './SectionText'

/** A study section beside a question, without losing the place. */
export function StudySheet({
  open,
  onOpenChange,
  onOpened,
  link,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  onOpened: () => void
  link: Schemas['StudyLinkOut']
}) {
  const course = useCourse()
  const cache = useQueryClient()
  useEffect(() => {
    if (open) return () => void cache.invalidateQueries({ queryKey: keys.misses(course) })
  }, [open, cache, course])
  return (
    <Sheet open={open} onOpenChange={onOpenChange} title={link.title}>
      {open && <SectionText topic={link.topic} section={link.section} onOpened={onOpened} />}
    </Sheet>
  )
}

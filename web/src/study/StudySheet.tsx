import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useCourse } from '../account/course'
import type { Schemas } from '../api/client'
import { keys } from '../api/keys'
import { Sheet } from '../ui/Sheet'
import { Loaded } from '../ui/states'
import { noteOpened, studyQuery } from './queries'
import { SectionText } from './SectionText'

/** A study section beside a question, without losing the place. */
export function StudySheet({
  open,
  onOpenChange,
  link,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  link: Schemas['StudyLinkOut']
}) {
  return (
    <Sheet open={open} onOpenChange={onOpenChange} title={link.title}>
      {open && <Section link={link} />}
    </Sheet>
  )
}

function Section({ link }: { link: Schemas['StudyLinkOut'] }) {
  const course = useCourse()
  const query = useQuery(studyQuery(course, link.topic))
  const cache = useQueryClient()
  useEffect(() => {
    void noteOpened(course, link.topic, link.section)
      .then(() => cache.invalidateQueries({ queryKey: keys.misses(course) }))
      .catch(() => undefined)
  }, [course, link.topic, link.section, cache])
  return (
    <Loaded query={query} what="the section">
      {(page) => {
        const section = page.sections.find((s) => s.key === link.section)
        return section ? <SectionText section={section} /> : null
      }}
    </Loaded>
  )
}

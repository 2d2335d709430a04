import { queryOptions, useQuery } from '@tanstack/react-query'
import { createContext, type ReactNode, useContext } from 'react'
import { api, call, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import { keep, readKept } from '../ui/storage'
import { keptFor } from './session'

export type Course = Schemas['CourseOut']

export const coursesQuery = queryOptions({
  queryKey: keys.courses,
  queryFn: () => call(api.GET('/api/courses')),
  staleTime: 60_000,
})

interface Here {
  course: Course
  courses: Course[]
  account: number
}

const HereContext = createContext<Here | null>(null)

/** The course that everything inside is about, and the account it is shown to. */
export function CourseProvider({ here, children }: { here: Here; children: ReactNode }) {
  return <HereContext value={here}>{children}</HereContext>
}

function useHere(): Here {
  const here = useContext(HereContext)
  if (!here) throw new Error('there is no course here')
  return here
}

/** Key of the course in the address. */
export const useCourse = () => useHere().course.key

/** Every course of the account, and the one shown. */
export const useCourses = () => useHere()

/** Id of the account, under which this browser keeps what is not sent yet. */
export const useAccountId = () => useHere().account

/** Addresses within the course: `to('/topics')`. */
export function useTo() {
  const course = useCourse()
  return (path: string) => `/courses/${course}${path === '/' ? '' : path}`
}

export const useCourseList = () => useQuery(coursesQuery)

const lastPlace = (account: number) => `${keptFor(account)}course`

/** Key of the course an account was last in, in this browser. */
export const lastCourse = (account: number) => readKept(lastPlace(account))

export const keepCourse = (account: number, course: string) => keep(lastPlace(account), course)

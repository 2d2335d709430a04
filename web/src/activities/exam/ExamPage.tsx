import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Navigate, useParams } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import { Missing } from '../../ui/Missing'
import { Failed, Loaded, Loading } from '../../ui/states'
import { ExamScreen } from './ExamScreen'
import { type Attempt, attemptCalls, attemptQuery } from './queries'
import { loadAll } from './tools/loading'

/** An attempt under way: loaded whole, then entered, which is when its clock starts. */
export default function ExamPage() {
  const { id } = useParams()
  if (!id || !/^\d+$/.test(id)) return <Missing />
  return <Known key={id} id={Number(id)} />
}

function Known({ id }: { id: number }) {
  const query = useQuery(attemptQuery(useCourse(), id))
  return (
    <Loaded query={query} what={t`the test. The clock starts when everything is here`}>
      {(attempt) => <Entered attempt={attempt} />}
    </Loaded>
  )
}

function Entered({ attempt }: { attempt: Attempt }) {
  const course = useCourse()
  const to = useTo()
  const [share, setShare] = useState(0)
  const enter = useMutation({
    mutationFn: async () => {
      await loadAll(attempt, setShare)
      return await attemptCalls(course, attempt.id).enter()
    },
  })
  const { mutate } = enter
  useEffect(() => {
    if (!attempt.handed_in) mutate()
  }, [mutate, attempt.handed_in])
  if (attempt.handed_in || enter.data?.handed_in)
    return <Navigate to={to(`/tests/attempts/${attempt.id}/receipt`)} replace />
  if (enter.error) return <Failed error={enter.error} retry={() => mutate()} />
  if (!enter.data)
    return (
      <div className="mx-auto grid max-w-md gap-3 px-5 py-16">
        <Loading what={t`the test. The clock starts when everything is here`} />
        <progress className="w-full accent-gust" aria-label={t`Loaded`} value={share} max={1} />
      </div>
    )
  return <ExamScreen attempt={attempt} entered={enter.data} />
}

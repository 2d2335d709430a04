import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Suspense } from 'react'
import { useParams } from 'react-router'
import { useCourse } from '../account/course'
import { Missing } from '../ui/Missing'
import { Loaded, Loading } from '../ui/states'
import { RunScreen } from './RunScreen'
import { runQuery } from './requests'

export default function RunPage() {
  const { id } = useParams()
  if (!id || !/^\d+$/.test(id)) return <Missing />
  return <KnownRun key={id} id={Number(id)} />
}

function KnownRun({ id }: { id: number }) {
  const query = useQuery(runQuery(useCourse(), id))
  return (
    <Suspense fallback={<Loading what={t`your place`} />}>
      <Loaded query={query} what={t`your place`}>
        {(sheet) => <RunScreen sheet={sheet} />}
      </Loaded>
    </Suspense>
  )
}

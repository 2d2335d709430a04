import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import type { Purpose } from '../../api/client'
import { Missing } from '../../app/Missing'
import { Loaded } from '../../ui/states'
import { runQuery } from './queries'
import { RunScreen } from './RunScreen'

const PURPOSES: Purpose[] = ['diagnostic', 'practice', 'missed']

export function RunPage() {
  const { purpose, id } = useParams()
  const known = PURPOSES.find((p) => p === purpose)
  if (!known || !id || !/^\d+$/.test(id)) return <Missing />
  return <KnownRun key={`${known}-${id}`} purpose={known} id={Number(id)} />
}

function KnownRun({ purpose, id }: { purpose: Purpose; id: number }) {
  const query = useQuery(runQuery(purpose, id))
  return (
    <Loaded query={query} what="your place">
      {(sheet) => <RunScreen sheet={sheet} />}
    </Loaded>
  )
}

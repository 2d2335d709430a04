import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { Confidence } from './Confidence'
import { LevelWeeks } from './LevelWeeks'
import { recordQuery, type Whose } from './queries'
import { Speed } from './Speed'
import { Tries } from './Tries'
import { Weeks } from './Weeks'

interface Props {
  whose: Whose
  /** Where one try is opened. */
  tryAt: (id: number) => string
  /** What stands above the heading. */
  children?: ReactNode
  /** What stands beside it: ways to save. */
  beside?: ReactNode
  /** What stands between the figures and the tries. */
  tests?: ReactNode
}

/** A record in figures and pictures, with every try below. */
export function RecordView({ whose, tryAt, children, beside, tests }: Props) {
  useTitle(t`Record`)
  const query = useQuery(recordQuery(whose))
  return (
    <Loaded query={query} what={t`the record`}>
      {(record) => (
        <main id="main" className="px-5 py-8 @5xl:px-8">
          {children}
          <div className="flex flex-wrap items-start justify-between gap-x-8 gap-y-3">
            <div>
              <p className="text-ink-2">
                {record.name}, {record.course}
              </p>
              <h1 className="text-3xl">{record.headline}</h1>
            </div>
            {beside}
          </div>
          {record.tries > 0 && <Figures record={record} />}
          {tests}
          <Tries whose={whose} topics={record.filters} tryAt={tryAt} />
        </main>
      )}
    </Loaded>
  )
}

function Figures({ record }: { record: Schemas['RecordOut'] }) {
  return (
    <>
      <div className="mt-7 grid gap-x-12 gap-y-8 @4xl:grid-cols-2">
        <Weeks weeks={record.weeks} minutes={record.minutes} />
        <Confidence calibration={record.calibration} />
      </div>
      <LevelWeeks topics={record.topics} />
      <Speed speed={record.speed} />
    </>
  )
}

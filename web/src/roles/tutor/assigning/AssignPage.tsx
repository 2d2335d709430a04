import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useParams, useSearchParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { composedQuery } from '../../composing/queries'
import { givenQuery, groupQuery, groupTasksQuery } from '../queries'
import { AssignForm } from './AssignForm'
import { nothingYet, ofTask, ofTest } from './assignment'

type Group = Schemas['GroupOut']

/** Work set for a group or some of it: a test, practice to a goal, a diagnostic, reading. */
export default function AssignPage() {
  const group = useQuery(groupQuery(Number(useParams().group)))
  useTitle(t`Set work`)
  return (
    <Loaded query={group} what={t`the group`}>
      {(found) => <InGroup group={found} />}
    </Loaded>
  )
}

function InGroup({ group }: { group: Group }) {
  const { assignment, task } = useParams()
  const [search] = useSearchParams()
  const list = useQuery(composedQuery(group.course))
  const given = useQuery({
    ...givenQuery(group.id, Number(assignment)),
    enabled: assignment !== undefined,
  })
  const copied = task ?? search.get('task')
  const tasks = useQuery({ ...groupTasksQuery(group.id), enabled: copied !== null })
  const wanted = search.get('test')
  const ideas = search.getAll('idea').map((key, n) => ({
    key,
    title: search.getAll('title')[n] ?? key,
  }))
  if (assignment)
    return (
      <Loaded query={given} what={t`how it was set`}>
        {(row) => (
          <Loaded query={list} what={t`the tests`}>
            {(found) => (
              <AssignForm
                group={group}
                list={found}
                first={ofTest(row)}
                target={{
                  test: row.id,
                  warning: row.warning,
                  version: row.version,
                  shared: row.shared.length > 0 && row.shared.map((one) => one.title),
                }}
              />
            )}
          </Loaded>
        )}
      </Loaded>
    )
  if (copied)
    return (
      <Loaded query={tasks} what={t`the work`}>
        {(rows) => (
          <Loaded query={list} what={t`the course`}>
            {(found) => {
              const row = rows.tasks.find((one) => one.id === Number(copied))
              return (
                <AssignForm
                  group={group}
                  list={found}
                  first={row ? ofTask(row, !task) : nothingYet(null)}
                  target={
                    task && row
                      ? { task: row.id, version: row.version, shared: row.batch !== '' }
                      : {}
                  }
                />
              )
            }}
          </Loaded>
        )}
      </Loaded>
    )
  return (
    <Loaded query={list} what={t`the tests`}>
      {(found) => (
        <AssignForm
          group={group}
          list={found}
          first={
            ideas.length > 0
              ? { ...nothingYet(null), kind: 'ideas', families: ideas }
              : nothingYet(wanted ? Number(wanted) : null)
          }
          target={{}}
        />
      )}
    </Loaded>
  )
}

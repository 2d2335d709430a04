import { useFamily } from './context'
import { FieldView } from './FieldView'
import { Folded } from './Folded'
import type { Given } from './json'
import { ListField } from './ListField'
import type { Fields } from './useDraft'

/** A section of texts or conditions, one below the other. */
export function Lines({
  name,
  title,
  label,
  add,
  as = 'rich',
  open = false,
  data,
  set,
}: {
  name: string
  title: string
  label: string
  add: string
  as?: 'rich' | 'expression'
  open?: boolean
  data: Fields
  set: (name: string, value: Given) => void
}) {
  const { problemAt } = useFamily()
  const lines = data[name]
  return (
    <Folded
      title={title}
      open={open || !!problemAt(name, true)}
      count={Array.isArray(lines) ? lines.length : 0}
    >
      <ListField
        View={FieldView}
        field={{ as: 'list', name, label, of: { as }, add, fresh: '' }}
        value={lines}
        onChange={(next) => set(name, next)}
        path={name}
      />
    </Folded>
  )
}

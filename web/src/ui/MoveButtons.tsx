import { t } from '@lingui/core/macro'
import { ArrowDown, ArrowUp, X } from 'lucide-react'
import { IconButton } from './IconButton'

interface Props {
  name: string
  place: number
  many: number
  onMove: (to: number) => void
  /** Takes it out of the list; left out where it has to stay. */
  onRemove?: (() => void) | undefined
}

/** Moves one of a list up or down, or takes it out. */
export const MoveButtons = ({ name, place, many, onMove, onRemove }: Props) => (
  <span className="flex">
    <IconButton
      icon={ArrowUp}
      label={t`Move ${name} up`}
      off={place === 0}
      act={() => onMove(place - 1)}
    />
    <IconButton
      icon={ArrowDown}
      label={t`Move ${name} down`}
      off={place === many - 1}
      act={() => onMove(place + 1)}
    />
    {onRemove && <IconButton icon={X} label={t`Remove ${name}`} act={onRemove} />}
  </span>
)

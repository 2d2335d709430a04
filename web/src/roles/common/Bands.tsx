import { t } from '@lingui/core/macro'
import { Plus, X } from 'lucide-react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { TextField } from '../../ui/Field'
import { IconButton } from '../../ui/IconButton'

type Band = Schemas['BandData']

interface Props {
  bands: Band[]
  /** What marks are in: “%” or “of 20”. */
  unit: string
  onChange: (bands: Band[]) => void
}

const MOST = 12

/** Named ranges of a result, each from its mark on. */
export function Bands({ bands, unit, onChange }: Props) {
  const set = (place: number, next: Partial<Band>) =>
    onChange(bands.map((band, i) => (i === place ? { ...band, ...next } : band)))
  return (
    <fieldset>
      <legend className="text-ink-2 text-sm">{t`Bands (each starts at its mark, ${unit})`}</legend>
      <ul className="mt-1 grid gap-2">
        {bands.map((band, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a band has no other identity
          <li key={place} className="flex flex-wrap items-end gap-3">
            <TextField
              label={t`Name of band ${place + 1}`}
              value={band.name}
              required
              maxLength={30}
              onText={(name) => set(place, { name })}
              fieldWidth="w-44"
            />
            <TextField
              label={t`From`}
              value={band.least}
              required
              inputMode="decimal"
              onText={(least) => set(place, { least })}
              fieldWidth="w-20"
            />
            <IconButton
              icon={X}
              label={t`Remove band ${place + 1}`}
              act={() => onChange(bands.filter((_, i) => i !== place))}
            />
          </li>
        ))}
      </ul>
      {bands.length < MOST && (
        <Button
          kind="quiet"
          className="mt-1"
          onClick={() => onChange([...bands, { name: '', least: bands.length ? '' : '0' }])}
        >
          <Plus size={18} aria-hidden="true" /> {t`Add a band`}
        </Button>
      )}
    </fieldset>
  )
}

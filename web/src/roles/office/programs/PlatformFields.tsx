import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import { Check } from '../../../ui/Check'
import { TextField } from '../../../ui/Field'

export type Form = Required<Schemas['PlatformEdit']>

export const EMPTY: Form = {
  name: '',
  issuer: '',
  client_id: '',
  login_url: '',
  token_url: '',
  keys_url: '',
  deployments: [],
  tutors: false,
  on: true,
}

export const LABELS: Record<string, string> = {
  name: t`Name, as people know it`,
  issuer: t`Issuer`,
  client_id: t`Client id`,
  login_url: t`Address where people are asked who they are`,
  token_url: t`Address of tokens`,
  keys_url: t`Address of its keys`,
  deployments: t`Deployments, with commas; none for any`,
  tutors: t`Tutors may come from it`,
  on: t`People may come from it`,
}
const TEXTS = ['name', 'issuer', 'client_id', 'login_url', 'token_url', 'keys_url'] as const

/** What is known of a platform. */
export function PlatformFields({
  form,
  set,
}: {
  form: Form
  set: (change: Partial<Form>) => void
}) {
  return (
    <>
      <div className="grid items-end gap-4 @3xl:grid-cols-2">
        {TEXTS.map((field) => (
          <TextField
            key={field}
            label={LABELS[field] ?? field}
            required
            maxLength={300}
            autoComplete="off"
            value={form[field]}
            onText={(text) => set({ [field]: text })}
          />
        ))}
        <TextField
          label={LABELS.deployments ?? ''}
          maxLength={300}
          value={form.deployments.join(', ')}
          onText={(text) =>
            set({ deployments: text.split(/,\s*/).filter((one) => one.trim() !== '') })
          }
        />
      </div>
      <Check on={form.on} set={(on) => set({ on })}>
        {LABELS.on}
      </Check>
      <Check on={form.tutors} set={(tutors) => set({ tutors })}>
        {LABELS.tutors}
      </Check>
    </>
  )
}

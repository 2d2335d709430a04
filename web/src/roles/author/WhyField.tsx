import { t } from '@lingui/core/macro'
import type { ComponentProps } from 'react'
import { TextField } from '../../ui/Field'

type Props = Pick<ComponentProps<typeof TextField>, 'value' | 'onText' | 'className' | 'fieldWidth'>

/** Why something is published, for its history. */
export function WhyField(props: Props) {
  return <TextField label={t`Why, in one line`} required minLength={3} maxLength={300} {...props} />
}

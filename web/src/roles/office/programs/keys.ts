import { keys } from '../../../api/keys'

export const recordStore = [...keys.office, 'record-store'] as const
export const platforms = [...keys.office, 'platforms'] as const

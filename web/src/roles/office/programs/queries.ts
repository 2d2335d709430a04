import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../../api/client'
import { platforms as platformsKey, recordStore as recordStoreKey } from './keys'

export type Store = Schemas['RecordStoreOut']

const STORE = '/api/office/record-store' as const
const LOOK_AGAIN = 3000

export const storeQuery = queryOptions({
  queryKey: recordStoreKey,
  queryFn: () => call(api.GET(STORE)),
  refetchInterval: ({ state }) => (state.data?.on ? LOOK_AGAIN : false),
})

export const saveStore = (body: Schemas['RecordStoreIn']) => call(api.PUT(STORE, { body }))
export const setSecret = (secret: string) => call(api.POST(`${STORE}/secret`, { body: { secret } }))
export const tryStore = () => call(api.POST(`${STORE}/try`))
export const sendNow = () => call(api.POST(`${STORE}/send`))

export type Platforms = Schemas['PlatformsOut']
export type Platform = Schemas['PlatformOut']
const PLATFORMS = '/api/office/platforms' as const

export const platformsQuery = queryOptions({
  queryKey: platformsKey,
  queryFn: () => call(api.GET(PLATFORMS)),
})

export const addPlatform = (body: Schemas['PlatformEdit']) => call(api.POST(PLATFORMS, { body }))
export const changePlatform = (platform_id: number, body: Schemas['PlatformIn']) =>
  call(api.PUT(`${PLATFORMS}/{platform_id}`, { params: { path: { platform_id } }, body }))

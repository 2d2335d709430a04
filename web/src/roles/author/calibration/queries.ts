import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../../api/client'
import { sentFile } from '../../../api/upload'
import { keys } from '../keys'

export type Calibration = Schemas['CalibrationPageOut']
export type Calibrated = Schemas['CalibratedOut']
export type Show = 'proposed' | 'alone' | 'asks'

const AT = '/api/courses/{course}/authoring/calibration' as const
const LOOK_AGAIN = 2000

export const calibrationQuery = (course: string, show: Show, page: number) =>
  queryOptions({
    queryKey: keys.calibration(course, { show, page }),
    queryFn: () => call(api.GET(AT, { params: { path: { course }, query: { show, page } } })),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) => (state.data?.running || state.data?.busy ? LOOK_AGAIN : false),
  })

export const curvesQuery = (course: string, family: string) =>
  queryOptions({
    queryKey: keys.curves(course, family),
    queryFn: () =>
      call(api.GET(`${AT}/families/{family}`, { params: { path: { course, family } } })),
  })

export const runCalibration = (course: string) =>
  call(api.POST(`${AT}/run`, { params: { path: { course } } }))

/** The same of a table of answers from elsewhere. */
export const runOfTable = (course: string, file: File) =>
  call(
    api.POST(`${AT}/run-table`, {
      params: { path: { course }, query: { name: file.name.slice(-120) } },
      ...sentFile(file, file.name),
    }),
  )

export const accept = (course: string, calibration_id: number, families: string[]) =>
  call(
    api.POST(`${AT}/{calibration_id}/accept`, {
      params: { path: { course, calibration_id } },
      body: { families },
    }),
  )

export const undo = (course: string, calibration_id: number, families: string[]) =>
  call(
    api.POST(`${AT}/{calibration_id}/undo`, {
      params: { path: { course, calibration_id } },
      body: { families },
    }),
  )

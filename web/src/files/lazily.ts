import { lazy } from 'react'

const load = () => import('./shown')

/** What shows files, in one piece that is loaded where some are. */
export const Files = lazy(() => load().then(({ Files }) => ({ default: Files })))
export const OwnFiles = lazy(() => load().then(({ OwnFiles }) => ({ default: OwnFiles })))
export const PaperSheets = lazy(() => load().then(({ PaperSheets }) => ({ default: PaperSheets })))

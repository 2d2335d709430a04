import { lazy } from 'react'

const load = () => import('./shown')

/** What shows files, in one piece that is loaded where some are. */
export const Files = lazy(() => load().then(({ Files }) => ({ default: Files })))
export const PartFiles = lazy(() => load().then(({ PartFiles }) => ({ default: PartFiles })))
export const PaperSheets = lazy(() => load().then(({ PaperSheets }) => ({ default: PaperSheets })))

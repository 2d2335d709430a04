export { Files } from './Files'
export { PaperSheets } from './PaperSheets'
export { PartFiles } from './PartFiles'

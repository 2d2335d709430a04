export { Files } from './Files'
export { OwnFiles } from './OwnFiles'
export { PaperSheets } from './PaperSheets'

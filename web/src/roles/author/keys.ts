/** Keys of what the query cache holds of authors' pages. */
export const keys = {
  written: ['authoring'] as const,
  bankPage: (course: string, filter: object) => ['authoring', course, 'bank', filter] as const,
  workbench: (course: string, family: string) => ['authoring', course, family] as const,
  starts: (course: string) => ['authoring', course, 'starts'] as const,
  publishing: (course: string, family: string, version: string) =>
    ['authoring', course, family, 'publishing', version] as const,
  history: (course: string, family: string) => ['authoring', course, family, 'history'] as const,
  compared: (course: string, family: string, query: object) =>
    ['authoring', course, family, 'compared', query] as const,
  wrongAnswers: (course: string, family: string) => ['authoring', course, family, 'wrong'] as const,
  tryVersion: (course: string, family: string, version: string, body: object) =>
    ['authoring', course, family, 'try', version, body] as const,
}

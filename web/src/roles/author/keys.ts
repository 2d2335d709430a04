/** Keys of what the query cache holds of authors' pages. */
export const keys = {
  written: ['authoring'] as const,
  structure: (course: string) => ['authoring', course, 'structure'] as const,
  structureChanges: (course: string, body: object) =>
    ['authoring', course, 'structure', 'changes', body] as const,
  merging: (course: string, body: object) =>
    ['authoring', course, 'structure', 'merging', body] as const,
  studyPage: (course: string, topic: string) => ['authoring', course, 'pages', topic] as const,
  studyHistory: (course: string, topic: string) =>
    ['authoring', course, 'pages', topic, 'history'] as const,
  studyPreview: (course: string, topic: string, sections: object) =>
    ['authoring', course, 'pages', topic, 'preview', sections] as const,
  trials: (course: string) => ['authoring', course, 'trials'] as const,
  trialTexts: (course: string, about: object) =>
    ['authoring', course, 'trials', 'texts', about] as const,
  calibrations: (course: string) => ['authoring', course, 'calibration'] as const,
  calibration: (course: string, filter: object) =>
    ['authoring', course, 'calibration', filter] as const,
  curves: (course: string, family: string) =>
    ['authoring', course, 'calibration', 'curves', family] as const,
  exports: (course: string) => ['authoring', course, 'exports'] as const,
  imports: (course: string) => ['authoring', course, 'imports'] as const,
  import: (course: string, number: number) => ['authoring', course, 'imports', number] as const,
  importPage: (course: string, number: number, filter: object) =>
    ['authoring', course, 'imports', number, filter] as const,
  bank: (course: string) => ['authoring', course, 'bank'] as const,
  bankPage: (course: string, filter: object) => ['authoring', course, 'bank', filter] as const,
  workbench: (course: string, family: string) => ['authoring', course, family] as const,
  ownQuestions: (group: number) => ['authoring', 'own', group] as const,
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

export default {
  sourceLocale: 'en',
  locales: ['en'],
  catalogs: [{ path: '<rootDir>/locales/{locale}', include: ['src'] }],
}

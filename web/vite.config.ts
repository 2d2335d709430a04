import babel from '@rolldown/plugin-babel'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

// English stands in the code, so it needs no catalogue: only what a translator reads is taken out.
const sentences = ['@lingui/babel-plugin-lingui-macro', { stripMessageField: false }]

export default defineConfig(({ command }) => ({
  plugins: [
    babel({ include: /\/src\/.*\.tsx?$/, plugins: [sentences] }),
    react(),
    tailwindcss(),
  ],
  base: command === 'build' ? '/static/' : '/',
  html: command === 'build' ? { cspNonce: '{{ CSP_NONCE }}' } : {},
  build: { outDir: 'dist', emptyOutDir: true, assetsInlineLimit: 0, manifest: true },
  test: { setupFiles: ['src/language.ts'] },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
}))

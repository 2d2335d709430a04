import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig(({ command }) => ({
  plugins: [react(), tailwindcss()],
  base: command === 'build' ? '/static/' : '/',
  html: command === 'build' ? { cspNonce: '{{ CSP_NONCE }}' } : {},
  build: { outDir: 'dist', emptyOutDir: true, assetsInlineLimit: 0, manifest: true },
  server: { proxy: { '/api': 'http://127.0.0.1:8000' } },
}))

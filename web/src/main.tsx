import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { setNonce } from 'get-nonce'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { ApiError, Unreachable } from './api/client'
import { App } from './app/App'
import { applyPreferences } from './app/preferences'
import './index.css'

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce
if (nonce) setNonce(nonce)
applyPreferences()

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (failures, error) => error instanceof Unreachable && failures < 2,
      refetchOnWindowFocus: false,
      networkMode: 'always',
      throwOnError: (error) => error instanceof ApiError && error.code === 'signed_out',
    },
    mutations: { networkMode: 'always' },
  },
})

const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  )

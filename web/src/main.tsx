import './language'
import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { setNonce } from 'get-nonce'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter } from 'react-router'
import { RouterProvider } from 'react-router/dom'
import { ApiError, Unreachable } from './api/client'
import { keys } from './api/keys'
import { App } from './app/App'
import { applyPreferences } from './ui/preferences'
import './index.css'

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce
if (nonce) setNonce(nonce)
applyPreferences()
// Fetched after the page stands: nothing has the focus before.
void import('./app/focus').then(({ keepFocus }) => keepFocus(document))

const queries = new QueryClient({
  queryCache: new QueryCache({
    onError: (error) => {
      if (error instanceof ApiError && error.code === 'signed_out')
        void queries.invalidateQueries({ queryKey: keys.session })
    },
  }),
  defaultOptions: {
    queries: {
      retry: (failures, error) => error instanceof Unreachable && failures < 2,
      refetchOnWindowFocus: false,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
})

// One route: the pages are chosen within. It is a router that can ask before a page is left.
const router = createBrowserRouter([{ path: '*', element: <App /> }])

const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  )

import { useQueryClient } from '@tanstack/react-query'
import { Component, type ReactNode } from 'react'
import { ApiError } from '../api/client'
import { Failed } from '../ui/states'
import { sessionKey } from './session'

interface Props {
  children: ReactNode
  onSignedOut: () => void
}

class Catcher extends Component<Props, { error: unknown }> {
  state = { error: undefined }

  static getDerivedStateFromError(error: unknown) {
    return { error }
  }

  componentDidCatch(error: unknown) {
    if (error instanceof ApiError && error.code === 'signed_out') this.props.onSignedOut()
  }

  render() {
    if (this.state.error === undefined) return this.props.children
    return <Failed error={this.state.error} retry={() => window.location.reload()} />
  }
}

/** Catches what a screen throws; a session that has ended leads back to signing in. */
export function Boundary({ children }: { children: ReactNode }) {
  const cache = useQueryClient()
  return (
    <Catcher onSignedOut={() => void cache.invalidateQueries({ queryKey: sessionKey })}>
      {children}
    </Catcher>
  )
}

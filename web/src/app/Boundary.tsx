import { Component, type ReactNode } from 'react'
import { Failed } from '../ui/states'

/** Catches what a screen throws, and says so instead of a blank page. */
export class Boundary extends Component<{ children: ReactNode }, { error: unknown }> {
  state = { error: undefined }

  static getDerivedStateFromError(error: unknown) {
    return { error }
  }

  render() {
    if (this.state.error === undefined) return this.props.children
    return <Failed error={this.state.error} retry={() => window.location.reload()} />
  }
}

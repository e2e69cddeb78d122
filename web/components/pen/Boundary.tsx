import { Component, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { presentPlan } from '../../store/desk.ts'
import { NotLoaded, needsNewPage } from '../late.tsx'
import { KeepAsFile } from './KeepAsFile.tsx'

/** Catches what breaks below it: the rest of the page lives on, and the plan can be taken along. */
export class Boundary extends Component<
  { readonly what: string; readonly children: ReactNode },
  { readonly error: Error | undefined }
> {
  override state = { error: undefined as Error | undefined }

  static getDerivedStateFromError(error: unknown): { error: Error } {
    return { error: error instanceof Error ? error : new Error(String(error)) }
  }

  readonly #again = async (): Promise<void> => {
    const { error } = this.state
    if (error instanceof NotLoaded && (await needsNewPage(error))) location.reload()
    else this.setState({ error: undefined })
  }

  override render(): ReactNode {
    const { error } = this.state
    if (!error) return this.props.children
    const plan = presentPlan()
    return (
      <section className="notice loud broken" role="alert">
        <p>
          <b>{this.props.what} cannot be shown.</b>{' '}
          {error instanceof NotLoaded ? error.message : `Something is wrong in the program: ${error.message}`}
        </p>
        <span className="notice-actions">
          <Button size="sm" variant="dark" onClick={() => void this.#again()}>
            Try again
          </Button>
          {plan && <KeepAsFile plan={plan} />}
          <a className="btn btn-sm btn-outline-dark" href="/">
            All plans
          </a>
        </span>
      </section>
    )
  }
}

import { Button } from 'react-bootstrap'
import type { Plan } from '../../../core/plan/planSchema.ts'
import { useBaseCatalog } from '../../store/catalog.ts'

// Fetched by itself and at once: it must be there when the server is away.
const writer = import('../../../core/plan/writePlan.ts').catch(() => undefined)

/** Saves a plan as a file from this page, without the server. */
export function KeepAsFile({ plan }: { plan: Plan }) {
  const catalog = useBaseCatalog()
  const keep = async (): Promise<void> => {
    // JSON is a plan file as well, and can always be written.
    let text = JSON.stringify(plan, null, 2)
    try {
      text = (await writer)?.writePlan(plan, catalog) ?? text
    } catch (error) {
      console.error(error)
    }
    const url = URL.createObjectURL(new Blob([text], { type: 'application/yaml' }))
    const link = document.createElement('a')
    link.href = url
    link.download = `${plan.title.replace(/[^A-Za-z0-9]+/g, '-').slice(0, 60) || 'plan'}.markpost.yaml`
    link.click()
    setTimeout(() => URL.revokeObjectURL(url), 10_000)
  }
  return (
    <Button size="sm" variant="outline-dark" onClick={() => void keep()}>
      Keep as a file
    </Button>
  )
}

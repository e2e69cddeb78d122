import { Button, Form, Modal } from 'react-bootstrap'
import type { ShareAnswer } from '../../../core/rules/answers.ts'
import { problemText, useSetOthersMutation, useShareQuery } from '../../store/api.ts'
import { QrCode } from '../QrCode.tsx'

/** How others come to a plan: a link to look only, one to change it, and the phrases of the whole. */
export function ShareDialog({
  id,
  title,
  onClose,
}: {
  readonly id: string
  readonly title: string
  readonly onClose: () => void
}) {
  const { data, error } = useShareQuery(id, { refetchOnMountOrArgChange: true })
  const [setOthers, { error: refused }] = useSetOthersMutation()
  const [look] = data?.look ?? []
  const [change] = data?.change ?? []
  return (
    <Modal show onHide={onClose} centered size="lg" aria-labelledby="share-title">
      <Modal.Body>
        <h2 id="share-title">Share “{title}”</h2>
        {(error ?? refused) && <p role="alert">{problemText(error ?? refused)}</p>}
        {data && !data.shared && (
          <p>
            This server is for its own machine only. Started with <code>markpost serve --share</code>, it lets others on
            the local network in, by a phrase or by links.
          </p>
        )}
        {data?.shared && look === undefined && <p>This machine is on no network: nobody else reaches it.</p>}
        {look !== undefined && change !== undefined && (
          <div className="share">
            {[
              ['To look only', look],
              ['To change it too', change],
            ].map(([name = '', link = '']) => (
              <section key={name} aria-label={name}>
                <h3>{name}</h3>
                <QrCode text={link} />
                <input
                  className="mono"
                  readOnly
                  value={link}
                  aria-label={`Link: ${name}`}
                  onFocus={(event) => event.target.select()}
                />
              </section>
            ))}
            <Form.Group className="share-others">
              <Form.Label htmlFor="share-others">Who comes by a phrase</Form.Label>
              <Form.Select
                id="share-others"
                size="sm"
                value={data?.others}
                onChange={({ target }) => void setOthers({ id, others: target.value as ShareAnswer['others'] })}
              >
                <option value="editor">may change this plan</option>
                <option value="viewer">may look at this plan only</option>
                <option value="none">does not see this plan</option>
              </Form.Select>
            </Form.Group>
            {data?.phrases && (
              <p className="soft">
                All plans: <b>{data.phrases.editor}</b> to change, <b>{data.phrases.viewer}</b> to look, at{' '}
                {data.addresses.join(' or ')}. A link holds for thirty days.
              </p>
            )}
          </div>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-dark" onClick={onClose}>
          Close
        </Button>
      </Modal.Footer>
    </Modal>
  )
}

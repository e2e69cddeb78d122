import { useMemo } from 'react'
import { qrPath } from '../../core/sheets/qr.ts'

/** A QR code, for a phone to read from the screen. */
export function QrCode({ text }: { readonly text: string }) {
  const { path, size } = useMemo(() => qrPath(text), [text])
  return (
    <svg className="qr" viewBox={`0 0 ${size} ${size}`} role="img" aria-label={`QR code of ${text}`}>
      <path d={path} />
    </svg>
  )
}

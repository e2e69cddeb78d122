import { Link } from 'react-router'

export function Brand() {
  return (
    <Link to="/" className="brand" aria-label="Mark Post: all plans">
      <svg viewBox="0 0 18 28" aria-hidden="true">
        <path d="M4 28V1" stroke="currentColor" strokeWidth="2.4" />
        <path d="M5.2 2H18l-3.4 4L18 10H5.2z" fill="var(--mp-flag)" />
        <path d="M0 27h8" stroke="currentColor" strokeWidth="2" />
      </svg>
      <span>Mark Post</span>
    </Link>
  )
}

/** Icons of our own for what only this job has. */
interface Props {
  className?: string
}

const line = {
  fill: 'none',
  stroke: 'currentColor',
  strokeWidth: 1.8,
  strokeLinecap: 'round',
  strokeLinejoin: 'round',
} as const

export function RackIcon({ className }: Props) {
  return (
    <svg viewBox="0 0 24 24" className={className} aria-hidden="true" {...line}>
      <path d="M2 4h20M6 4v5M12 4v3M18 4v7" />
      <path d="M4 9h4v7H4zM10 7h4v6h-4zM16 11h4v8h-4z" />
    </svg>
  )
}

export function InstrumentsIcon({ className }: Props) {
  return (
    <svg viewBox="0 0 24 24" className={className} aria-hidden="true" {...line}>
      <path d="M10.900 10V3.500l-1-1.800h4.200l-1 1.800V10" />
      <path d="M13.100 10c1.300-.2 1.700-2.200 3.300-2.300 1 1.700-.6 3.300-.6 5 0 1.600 2.400 2.500 2.400 5.300 0 3-2.700 4.500-6.200 4.500s-6.200-1.500-6.200-4.500c0-2.800 2.400-3.700 2.400-5.300 0-1.700-1.600-3.300-.6-5 1.600.1 2 2.100 3.300 2.300z" />
      <path d="M10.300 18.500h3.400" />
    </svg>
  )
}

export function WeeksIcon({ className }: Props) {
  return (
    <svg viewBox="0 0 24 24" className={className} aria-hidden="true" {...line}>
      <path d="M2 7h12M2 17h6c4 0 5-6 8-6h6" />
      <circle cx="6" cy="7" r="2" />
      <path d="M12 4.500l2.500 2.500L12 9.500 9.500 7z" />
      <circle cx="19" cy="11" r="2.400" />
    </svg>
  )
}

export function ShopIcon({ className }: Props) {
  return (
    <svg viewBox="0 0 24 24" className={className} aria-hidden="true" {...line}>
      <path d="M3 20V10l9-6 9 6v10zM10 20v-6h4v6" />
    </svg>
  )
}

/** Mark is frost over umber. */
export function Mark({ className }: Props) {
  return (
    <svg viewBox="0 0 48 48" className={className} role="img" aria-label="Umberfrost">
      <circle cx="24" cy="24" r="20" fill="#4A3024" />
      <path d="M4 24a20 20 0 0 0 40 0z" fill="#C98F5F" />
      <g stroke="#D3E5F0" strokeWidth="2" strokeLinecap="round" fill="none">
        <path d="M24 8v32M10.1 16l27.8 16M37.9 16 10.1 32M19.5 10.5 24 15l4.5-4.5M19.5 37.5 24 33l4.5 4.5M10 21.5l6.2-1.7-1.7-6.2M38 26.5l-6.2 1.7 1.7 6.2M38 21.5l-6.2-1.7 1.7-6.2M10 26.5l6.2 1.7-1.7 6.2" />
      </g>
    </svg>
  )
}

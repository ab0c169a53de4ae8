import type { Bead } from '../api/client'

interface Props {
  kind: Bead['kind']
  method: string
  x: number
  y: number
  /** Half the mark's width. */
  size: number
  className: string
}

/** BeadMark tells the kind of work by its shape, to be placed in a drawing. */
export function BeadMark({ kind, method, x, y, size: s, className }: Props) {
  switch (kind) {
    case 'coat':
      if (method === 'spray' || method === 'aerosol')
        return <path d={`M${x} ${y - s}L${x + s} ${y}L${x} ${y + s}L${x - s} ${y}Z`} className={className} />
      return <circle cx={x} cy={y} r={s * 0.85} className={className} />
    case 'sand':
    case 'scuff':
    case 'level':
    case 'buff':
      return <rect x={x - s} y={y - s * 0.6} width={2 * s} height={1.2 * s} className={className} />
    case 'mask-on':
    case 'mask-off':
      return (
        <path
          d={`M${x - s} ${y}Q${x} ${y - s * 1.2} ${x + s} ${y}Q${x} ${y + s * 1.2} ${x - s} ${y}Z`}
          className={className}
        />
      )
    case 'inspect':
      return (
        <path
          d={`M${x} ${y - s * 0.8}L${x + s * 0.8} ${y + s * 0.7}L${x - s * 0.8} ${y + s * 0.7}Z`}
          className={className}
        />
      )
    case 'gate':
      return (
        <path
          d={`M${x - s} ${y - s * 0.7}C${x + s * 0.4} ${y - s} ${x - s * 0.4} ${y + s} ${x + s} ${y + s * 0.7}M${x - s} ${y + s * 0.7}C${x + s * 0.4} ${y + s} ${x - s * 0.4} ${y - s} ${x + s} ${y - s * 0.7}`}
          className={className}
          strokeWidth="2.4"
          fill="none"
        />
      )
  }
}

const words: Record<Bead['kind'], string> = {
  sand: 'sanding',
  coat: 'coat',
  scuff: 'scuffing',
  'mask-on': 'taping',
  'mask-off': 'tape off',
  level: 'levelling',
  buff: 'buffing',
  inspect: 'check',
  gate: 'gate',
}

/** KindMark is the same mark on its own, with its word for those who do not see it. */
export function KindMark({ kind, method, className }: { kind: Bead['kind']; method: string; className?: string }) {
  return (
    <svg viewBox="0 0 24 24" className={className ?? 'size-6'} role="img" aria-label={words[kind]}>
      <BeadMark kind={kind} method={method} x={12} y={12} size={8} className="fill-current stroke-current" />
    </svg>
  )
}

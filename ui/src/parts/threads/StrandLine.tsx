import type { CriticalWait, Strand } from '../../api/client'
import { BeadMark } from '../BeadMark'
import { FrostBand } from './Thread'
import { clusterLabel, clusters, type Cluster } from './clusters'
import { time } from './scale'

interface Props {
  strand: Strand
  x: (at: number) => number
  y: number
  now: number
  /** The stretch that is seen. */
  left: number
  right: number
  /** Where the thread goes on to when its last work is not its end. */
  until?: number
  critical?: CriticalWait
  /** Pushed into the background: what is today, beside what would be. */
  faint?: boolean
  /** Beads are drawn by somebody else. */
  bare?: boolean
}

/** StrandLine is a piece through the days at an even scale: its thread, its frost, its beads. */
export function StrandLine({ strand, x, y, now, left, right, until, critical, faint, bare }: Props) {
  if (!strand.from || !strand.to) return null
  const from = Math.max(left, x(time(strand.from)))
  const end = Math.min(right, until ?? x(time(strand.to)))
  const done = strand.beads.filter((b) => b.done).at(-1)
  return (
    <g opacity={faint ? 0.45 : 1}>
      {end > from && <line x1={from} x2={end} y1={y} y2={y} className="stroke-umber" strokeWidth="1.5" />}
      {done && x(time(done.start)) > from && (
        <line x1={from} x2={x(time(done.start))} y1={y} y2={y} className="stroke-umber" strokeWidth="4" />
      )}
      {strand.frost && (
        <FrostBand
          from={Math.max(left, x(Math.max(now, time(strand.frost.from))))}
          to={Math.min(right, x(time(strand.frost.to)))}
          y={y}
        />
      )}
      {critical?.pieceId === strand.pieceId && <Longest wait={critical} x={x} y={y} left={left} right={right} />}
      {!bare &&
        clusters(strand.beads, x, left, right).map((c) => (
          <g key={c.key}>
            <title>{clusterLabel(c)}</title>
            <ClusterMark cluster={c} y={y} />
          </g>
        ))}
    </g>
  )
}

/** Longest marks the wait that an instrument's finish hangs on. */
export function Longest({
  wait,
  x,
  y,
  left,
  right,
}: { wait: CriticalWait; y: number } & Pick<Props, 'x' | 'left' | 'right'>) {
  const from = Math.max(left, x(time(wait.from)))
  const to = Math.min(right, x(time(wait.to)))
  if (to - from < 6) return null
  return (
    <g data-critical>
      <title>{wait.text}</title>
      <path d={`M${from} ${y + 5}v5H${to}v-5`} className="fill-none stroke-drying" strokeWidth="1.5" />
    </g>
  )
}

const states = {
  ready: 'fill-ready-fill stroke-ready',
  drying: 'fill-drying-fill stroke-drying',
  closing: 'fill-closing-fill stroke-closing',
  waiting: 'fill-ground stroke-umber',
  late: 'fill-late-fill stroke-late',
  finished: 'fill-umber stroke-umber',
} as const

/** ClusterMark is the mark of a cluster's longest work, sized by all of it; a tack holds what is pinned. */
export function ClusterMark({ cluster, y }: { cluster: Cluster; y: number }) {
  const longest = cluster.beads.reduce((a, b) => (b.minutes > a.minutes ? b : a))
  const minutes = cluster.beads.reduce((sum, b) => sum + b.minutes, 0)
  const first = cluster.beads.find((b) => !b.done) ?? longest
  const colour = first.done
    ? first.skipped
      ? 'fill-none stroke-ink-3'
      : states.finished
    : first.state === 'ready' || first.state === 'closing' || first.state === 'late'
      ? states[first.state]
      : states.waiting
  const size = Math.min(9.5, 4.5 + minutes / 40)
  return (
    <g strokeWidth="1.8">
      <BeadMark kind={longest.kind} method={longest.method} x={cluster.x} y={y} size={size} className={colour} />
      {cluster.beads.some((b) => b.pinned) && (
        <path
          d={`M${cluster.x} ${y - size - 1}v-6M${cluster.x - 3.5} ${y - size - 7}h7`}
          className="fill-none stroke-ink"
        />
      )}
      {cluster.beads.some((b) => b.floats) && (
        <path
          d={`M${cluster.x - 4} ${y - size - 7}l8 6M${cluster.x - 4} ${y - size - 1}l8-6`}
          className="stroke-late"
        />
      )}
    </g>
  )
}

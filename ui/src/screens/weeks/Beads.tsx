import type { KeyboardEvent } from 'react'
import type { Bead, Strand } from '../../api/client'
import { clusterLabel, clusters } from '../../parts/threads/clusters'
import { ClusterMark } from '../../parts/threads/StrandLine'

export interface Reach {
  bead: Bead
  beads: Bead[]
  strand: Strand
  element: SVGGElement
}

interface Props {
  strand: Strand
  x: (at: number) => number
  y: number
  width: number
  /** The row's one stop for the tab key. */
  first: boolean
  held?: Bead['event']
  onOpen: (reach: Reach) => void
  onPress: (reach: Reach) => void
}

/** Beads are the sittings of a strand, to be opened, or taken and put elsewhere. */
export function Beads({ strand, x, y, width, first, held, onOpen, onPress }: Props) {
  const list = clusters(strand.beads, x, 0, width)
  const stop = list.findIndex((c) => c.beads.some((b) => !b.done))
  return list.map((cluster, i) => {
    const bead = cluster.beads.find((b) => !b.done) ?? cluster.beads[0]
    if (!bead) return null
    const reach = (element: SVGGElement): Reach => ({ bead, beads: cluster.beads, strand, element })
    const inHand = held?.stepId === bead.event.stepId && held.coat === bead.event.coat
    return (
      <g
        key={cluster.key}
        role="button"
        aria-label={clusterLabel(cluster)}
        data-bead={`${bead.event.stepId}/${bead.event.coat}`}
        tabIndex={first && i === Math.max(0, stop) ? 0 : -1}
        opacity={inHand ? 0.35 : 1}
        className={`touch-none ${bead.done ? 'cursor-pointer' : 'cursor-grab'} outline-offset-4`}
        onClick={(e) => onOpen(reach(e.currentTarget))}
        onPointerDown={(e) => !bead.done && onPress(reach(e.currentTarget))}
        onKeyDown={(e) => {
          if (e.key === 'Enter' || e.key === ' ') {
            e.preventDefault()
            onOpen(reach(e.currentTarget))
          } else walk(e)
        }}
      >
        <title>{clusterLabel(cluster)}</title>
        <rect x={cluster.x - 11} y={y - 14} width={22} height={28} fill="transparent" />
        <ClusterMark cluster={cluster} y={y} />
      </g>
    )
  })
}

/** walk goes by arrow keys along the beads of a row, and to the nearest bead of the next. */
function walk(e: KeyboardEvent<SVGGElement>) {
  const rows = [...document.querySelectorAll('[data-week-row]')]
  const row = e.currentTarget.closest('[data-week-row]')
  const beadsOf = (r: Element | null | undefined) => [...(r?.querySelectorAll<SVGGElement>('[data-bead]') ?? [])]
  const here = e.currentTarget.getBoundingClientRect().left
  const mine = beadsOf(row).sort((a, b) => a.getBoundingClientRect().left - b.getBoundingClientRect().left)
  const at = mine.indexOf(e.currentTarget)
  const nearest = (list: SVGGElement[]) =>
    list.toSorted(
      (a, b) => Math.abs(a.getBoundingClientRect().left - here) - Math.abs(b.getBoundingClientRect().left - here),
    )[0]
  const next = {
    ArrowRight: mine[at + 1],
    ArrowLeft: mine[at - 1],
    ArrowDown: nearest(beadsOf(rows[row ? rows.indexOf(row) + 1 : -1])),
    ArrowUp: nearest(beadsOf(rows[row ? rows.indexOf(row) - 1 : -1])),
  }[e.key]
  if (!next) return
  e.preventDefault()
  e.stopPropagation()
  next.focus()
}

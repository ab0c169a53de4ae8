import type { Bead } from '../../api/client'
import { time } from './scale'

/** Cluster is work of a strand that lies too close to be told apart at this scale. */
export interface Cluster {
  key: string
  beads: Bead[]
  x: number
}

/** The least distance of two marks that can be told apart. */
const apart = 11

export const beadKey = (b: Pick<Bead, 'event'>) => `${b.event.stepId}/${b.event.coat}`

/** clusters gathers the beads between two places; done and planned work are not mixed. */
export function clusters(beads: Bead[], x: (at: number) => number, from: number, to: number): Cluster[] {
  const list: Cluster[] = []
  for (const bead of beads) {
    const at = x(time(bead.start))
    if (at < from - apart || at > to + apart) continue
    const last = list.at(-1)
    if (last?.beads[0] && at - last.x < apart && last.beads[0].done === bead.done) last.beads.push(bead)
    else list.push({ key: beadKey(bead), beads: [bead], x: at })
  }
  return list
}

/** clusterLabel says what a cluster holds. */
export function clusterLabel({ beads }: Cluster) {
  const [first] = beads
  if (!first) return ''
  const one = (b: Bead) => `${b.title}, ${b.done ? 'done' : b.pinned ? 'pinned' : 'planned'} ${b.when}`
  if (beads.length === 1) return one(first)
  return `${beads.length} sittings: ${beads.slice(0, 6).map(one).join('; ')}${beads.length > 6 ? '; and more' : ''}`
}

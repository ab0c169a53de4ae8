import * as z from 'zod/mini'
import type { Change, Problem } from '../../api/client'
import { letGo, onTop } from '../../api/supposing'
import { Button } from '../Button'

const fact = z.object({ label: z.string(), text: z.string() })
const clash = z.object({
  change: z.number(),
  stepId: z.string(),
  title: z.string(),
  version: z.number(),
  theirs: z.array(fact),
  mine: z.array(fact),
})
type Clash = z.infer<typeof clash>

/** clashesOf are the steps that somebody else has changed meanwhile, with both versions. */
export const clashesOf = (problem?: Problem): Clash[] =>
  (problem?.faults ?? []).flatMap((f) => {
    const read = clash.safeParse(f.value)
    return read.success ? [read.data] : []
  })

/** Clashes lets one choose, step by step, between what somebody else has kept meanwhile and what is wished here. */
export function Clashes({ clashes, changes }: { clashes: Clash[]; changes: Change[] }) {
  return clashes.map((c) => (
    <section key={c.stepId} className="border-l-4 border-closing pl-3" data-clash>
      <p className="font-semibold">Somebody else has changed “{c.title}” in the meantime. Which holds?</p>
      <div className="my-2 grid gap-3 sm:grid-cols-2">
        <Version title="As it is now" facts={c.theirs} other={c.mine} />
        {c.mine.length > 0 ? (
          <Version title="With your change on top" facts={c.mine} other={c.theirs} />
        ) : (
          <p className="text-ink-2">Your change cannot be made to it any more.</p>
        )}
      </div>
      <div className="flex flex-wrap gap-3">
        <Button
          onClick={() => changes.filter((one) => one.edit?.stepId === c.stepId).forEach(letGo)}
          aria-label={`Leave it as it is now: ${c.title}`}
        >
          Leave it as it is now
        </Button>
        {c.mine.length > 0 && (
          <Button onClick={() => onTop(c.stepId, c.version)} aria-label={`Put my change on top: ${c.title}`}>
            Put my change on top
          </Button>
        )}
      </div>
    </section>
  ))
}

function Version({ title, facts, other }: { title: string; facts: Clash['mine']; other: Clash['mine'] }) {
  const same = (f: Clash['mine'][number]) => other.some((o) => o.label === f.label && o.text === f.text)
  return (
    <div>
      <p className="text-sm text-ink-2">{title}</p>
      <dl className="grid grid-cols-[84px_1fr] gap-x-2 text-sm">
        {facts.map((f) => (
          <div key={f.label} className="contents">
            <dt className="text-ink-2">{f.label}</dt>
            <dd className={same(f) ? '' : 'font-semibold text-closing'}>{f.text}</dd>
          </div>
        ))}
      </dl>
    </div>
  )
}

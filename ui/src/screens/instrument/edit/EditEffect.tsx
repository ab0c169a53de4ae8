import type { Edited, StrataChange, WhatIf } from '../../../api/client'
import { Effects } from '../../../parts/what-if/Effects'

/** EditEffect is what the changes of a schedule do, before they are kept: dates, promises, what lies there in the end. */
export function EditEffect({ answer, edited }: { answer?: WhatIf; edited?: Edited }) {
  return (
    <section className="panel mb-4 space-y-3 p-4" aria-labelledby="edit-effect" data-edit-effect>
      <h2 id="edit-effect" className="name text-lg">
        What it does
      </h2>
      {!answer && <p className="text-ink-2">Nothing is changed yet. Choose a step, and change what you like of it.</p>}
      {answer && (
        <div aria-live="polite">
          <p className="font-semibold">{answer.sum}</p>
          {edited?.outlook.impossible && (
            <p className="font-semibold text-late">It cannot be finished like this: {edited.outlook.impossible}.</p>
          )}
          <Effects effects={answer.effects} />
        </div>
      )}
      {edited?.strata.map((change) => (
        <Lying key={`${change.piece} ${change.regions.join()}`} change={change} />
      ))}
      {answer && <p className="text-sm text-ink-2">Nothing is saved until you keep it below.</p>}
    </section>
  )
}

/** Lying is what lies on regions in the end, today and with the changes, the wood lowest. */
function Lying({ change: { piece, regions, now, then } }: { change: StrataChange }) {
  const alike = now.length === then.length && now.every((s, i) => s.name === then[i]?.name)
  return (
    <figure data-strata-change>
      <figcaption className="mb-1 text-sm">
        What lies in the end on <b>{regions.join(', ')}</b> of the {piece}
      </figcaption>
      {alike ? (
        <Strata strata={then} was={now} />
      ) : (
        <div className="grid gap-2">
          <Strata title="Today" strata={now} />
          <Strata title="Like this" strata={then} />
        </div>
      )}
    </figure>
  )
}

interface StrataProps {
  title?: string
  strata: StrataChange['now']
  /** The same strata as they would lie today, to show what differs. */
  was?: StrataChange['now']
}

function Strata({ title, strata, was }: StrataProps) {
  return (
    <div className="min-w-0">
      {title && <p className="text-[13px] text-ink-2">{title}</p>}
      <ol className="border-b-4 border-umber text-sm" aria-label={`${title ?? 'Strata'}, from the top to the wood`}>
        {strata
          .map((s, i) => (
            <li key={i} className="flex justify-between gap-2 border-b border-line bg-raised px-2 py-0.5">
              <span className="min-w-0 truncate">{s.name}</span>
              <span className="shrink-0 text-ink-2">{coats(s.coats, was?.[i]?.coats)}</span>
            </li>
          ))
          .toReversed()}
        {strata.length === 0 && <li className="px-2 py-0.5 text-ink-2">bare wood</li>}
      </ol>
    </div>
  )
}

function coats(n: number, was = n) {
  const now = n === 1 ? '1 coat' : `${n} coats`
  return was === n ? now : <b className="text-closing">{`${now}, not ${was}`}</b>
}

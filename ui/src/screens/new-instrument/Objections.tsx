import type { Objection } from '../../api/client'

/** Objections are what the schedule gets wrong as it is wished, each with what would mend it. */
export function Objections({ objections, notes }: { objections: Objection[]; notes: string[] }) {
  if (objections.length + notes.length === 0) return null
  return (
    <section className="panel p-4" data-objections>
      <h2 className="name mb-1 text-lg">{objections.length > 0 ? 'What objects' : 'Worth knowing'}</h2>
      {objections.map((o) => (
        <div
          key={`${o.rule} ${o.stepId}`}
          className={`mb-2 border-l-4 pl-3 ${o.spoils ? 'border-late' : 'border-closing'}`}
        >
          <p className={`font-semibold ${o.spoils ? 'text-late' : 'text-closing'}`}>{o.title}</p>
          <p className="text-sm">{o.reason}</p>
          {o.mend && <p className="text-sm">What would mend it: {o.mend}.</p>}
        </div>
      ))}
      <ul className="space-y-1 text-sm text-ink-2">
        {notes.map((note) => (
          <li key={note}>{note}</li>
        ))}
      </ul>
    </section>
  )
}

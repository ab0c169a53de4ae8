import type { InstrumentView } from '../../api/client'

/** Head says how the job stands against its promise. */
export function Head({ view }: { view: InstrumentView }) {
  const { outlook } = view
  return (
    <header className="flex flex-wrap items-baseline gap-x-7 gap-y-1 py-3">
      <h1 className="name text-[28px]">{view.name}</h1>
      <Fact label="promised">{outlook.promise.said}</Fact>
      <Fact label={outlook.finished ? 'finished' : 'ready'}>
        <span title={outlook.finish?.full}>{outlook.finishDay}</span>
      </Fact>
      {!outlook.finished && (
        <>
          <Fact label={outlook.late ? '' : 'slack'}>
            <span className={outlook.late ? 'rounded-sm bg-late-fill px-2 text-late' : ''}>{outlook.slack}</span>
          </Fact>
          <Fact label="latest start">
            {outlook.latestStart ? <span title={outlook.latestStart.full}>{outlook.latestStart.said}</span> : 'is past'}
          </Fact>
        </>
      )}
      {outlook.impossible && (
        <p className="w-full text-late">It cannot be finished as planned: {outlook.impossible}.</p>
      )}
    </header>
  )
}

function Fact({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <p>
      <span className="text-ink-2">{label}</span> <b>{children}</b>
    </p>
  )
}

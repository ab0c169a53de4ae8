import type { InstrumentView } from '../../api/client'
import { Chance, LatestStart, Slack } from '../../parts/OutlookFigures'
import { AskWhatIf } from '../../parts/what-if/AskWhatIf'

/** Head says how the job stands against its promise. */
export function Head({ view }: { view: InstrumentView }) {
  const { outlook } = view
  return (
    <header className="flex flex-wrap items-baseline gap-x-7 gap-y-1 py-3">
      <h1 className="name text-[28px]">{view.name}</h1>
      <Fact label="promised">{outlook.promise.said}</Fact>
      <Fact label={outlook.finished ? 'finished' : 'ready'}>
        <span title={`${outlook.finish?.full ?? ''}. ${outlook.because}`}>{outlook.finishDay}</span>
      </Fact>
      {!outlook.finished && (
        <>
          <Fact label={outlook.late ? '' : 'slack'}>
            <Slack outlook={outlook} />
          </Fact>
          <Fact label="latest start">
            <LatestStart outlook={outlook} />
          </Fact>
          <p>
            <Chance outlook={outlook} />
          </p>
          <span className="ml-auto self-center">
            <AskWhatIf instrumentId={view.id} />
          </span>
          <p className="w-full text-[15px] text-ink-2" data-because-finish>
            {view.critical?.text ?? outlook.because}
          </p>
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

import { Button, LinkButton } from '../../parts/Button'
import { Told } from '../../parts/Told'
import type { InstrumentView } from '../../api/client'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Chance, LatestStart, Slack } from '../../parts/OutlookFigures'
import { AskWhatIf } from '../../parts/what-if/AskWhatIf'

/** Head says how the job stands against its promise. */
export function Head({ view, onCare }: { view: InstrumentView; onCare?: () => void }) {
  const { outlook } = view
  return (
    <header className="py-3">
      <div className="flex flex-wrap items-start gap-4 sm:flex-nowrap">
        <div className="flex w-full min-w-0 flex-wrap items-baseline gap-x-5 gap-y-1">
          <ScreenTitle tab={view.name} />
          {view.serial && <Fact label="serial">{view.serial}</Fact>}
          <Fact label="promised">{outlook.promise.said}</Fact>
          {view.show && (
            <Fact label="shown">
              {view.show.said}
              {outlook.show && !outlook.finished && (
                <span className={`font-normal ${outlook.show.late ? 'text-late' : 'text-ink-2'}`} data-show>
                  {' '}
                  ({outlook.show.text.replace(/^Fit/, 'fit')})
                </span>
              )}
            </Fact>
          )}
          <Fact label={outlook.finished ? 'finished' : 'ready'}>
            <Told more={`${outlook.finish?.full ?? ''}. ${outlook.because}`}>{outlook.finishDay}</Told>
          </Fact>
          {!outlook.finished && (
            <>
              <Fact label={outlook.late ? '' : 'slack'}>
                <Slack outlook={outlook} />
              </Fact>
              {!outlook.impossible && (
                <Fact label="latest start">
                  <LatestStart outlook={outlook} />
                </Fact>
              )}
              <p>
                <Chance outlook={outlook} />
              </p>
            </>
          )}
          {!view.archived && (
            <Button look="bare" className="-my-2 px-0!" onClick={onCare}>
              Name, promise…
            </Button>
          )}
        </div>
        {!outlook.finished && !view.archived && (
          <div className="flex gap-3">
            <LinkButton look="plain" to={`/instruments/${view.id}/choices`}>
              Choices
            </LinkButton>
            <AskWhatIf instrumentId={view.id} />
          </div>
        )}
      </div>
      {!outlook.finished && (
        <p className="text-[15px] text-ink-2" data-because-finish>
          {view.critical?.text ?? outlook.because}
        </p>
      )}
      {outlook.impossible && <p className="text-late">It cannot be finished as planned: {outlook.impossible}.</p>}
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

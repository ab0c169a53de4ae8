import { Link } from 'react-router'
import type { Rack } from '../../api/client'
import { Figure } from '../../parts/Figure'
import { Slack } from '../../parts/OutlookFigures'
import { StateChip } from '../../parts/StateChip'
import { Told } from '../../parts/Told'

/** Promises are the running instruments, the one nearest to being broken first. */
export function Promises({ promises }: { promises: Rack['promises'] }) {
  return (
    <section className="panel px-4 py-3" aria-labelledby="promises-head">
      <h2 id="promises-head" className="name text-lg">
        Promises
      </h2>
      <ul>
        {promises.map(({ instrumentId, name, outlook }) => (
          <li key={instrumentId} className="border-t border-line">
            <div className="relative grid min-h-11 grid-cols-[1fr_auto_auto] items-center gap-x-3 py-1 hover:bg-raised">
              <span>
                <Link to={`/instruments/${instrumentId}`} className="font-semibold after:absolute after:inset-0">
                  {name}
                </Link>{' '}
                <Told more={outlook.because} className="text-sm text-ink-2">
                  {outlook.promise.said}
                </Told>
              </span>
              <span className="relative z-10 text-sm" data-chance>
                {outlook.chance && <Figure working={outlook.chance.working}>{outlook.chance.percent} %</Figure>}
              </span>
              <StateChip state={outlook.late ? 'late' : 'ready'}>
                <span className="relative z-10">
                  {!outlook.late && 'slack '}
                  <Slack outlook={outlook} />
                </span>
              </StateChip>
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}

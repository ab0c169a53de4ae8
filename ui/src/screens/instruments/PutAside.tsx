import { useState } from 'react'
import { Link } from 'react-router'
import { useArchive } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { Told } from '../../parts/Told'
import { found } from './found'

/** PutAside lists what is put aside; it is asked for when somebody opens it, or looks for something. */
export function PutAside({ looked }: { looked: string }) {
  const [open, setOpen] = useState(false)
  const archive = useArchive(open || looked !== '')
  const some = archive.data?.some((l) => found(looked, l.name, l.serial, ...l.woods)) && looked !== ''
  return (
    <details
      className="mt-5 border-t border-line"
      open={open || some}
      onToggle={(e) => setOpen(e.currentTarget.open)}
      data-archive
    >
      <summary className="name min-h-11 py-2 text-xl">Put aside</summary>
      {(open || some) && (
        <Asking query={archive}>
          {(lines) => (
            <>
              {lines.length === 0 && <p className="text-ink-2">Nothing is put aside.</p>}
              <ul>
                {lines
                  .filter((l) => found(looked, l.name, l.serial, ...l.woods))
                  .map((l) => (
                    <li key={l.id} className="flex flex-wrap items-baseline gap-x-4 border-t border-line">
                      <Link
                        to={`/instruments/${l.id}`}
                        className="inline-flex min-h-11 items-center font-semibold hover:underline"
                      >
                        {l.name}
                      </Link>
                      <span className="text-ink-2">
                        {[l.serial, l.woods.join(', '), `${l.done} of ${l.total} done`].filter(Boolean).join(' · ')},
                        put aside <Told more={l.since.full}>{l.since.said}</Told>
                      </span>
                    </li>
                  ))}
              </ul>
            </>
          )}
        </Asking>
      )}
    </details>
  )
}

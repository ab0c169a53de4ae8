import { useQuery } from '@tanstack/react-query'
import { api } from '../../api/client'
import { queries } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { Restore } from '../../parts/Restore'
import { Told } from '../../parts/Told'
import { toast } from '../../parts/toasts'
import { Room } from './Room'

const linkLook = 'inline-flex min-h-11 items-center underline decoration-ink-3 underline-offset-4'

/** BackupPanel is the backups that are kept, one to take away, and the way back from one. */
export function BackupPanel() {
  const backups = useQuery({ queryKey: ['backups'], queryFn: api.backups })
  return (
    <section className="panel p-4" aria-labelledby="backup-head" data-backups>
      <h2 id="backup-head" className="name mb-2 text-xl">
        Backups
      </h2>
      <p>
        <a className={linkLook} href="/api/backup-file" download>
          Take a backup of the whole shop away
        </a>
      </p>
      <p className="mb-3 text-ink-2">
        It is read back before it comes, which takes some seconds. Keep it on another machine: what this one loses, it
        brings back.
      </p>
      <Room />
      <Asking query={backups}>
        {(view) => (
          <>
            {view.failed && (
              <p role="alert" className="mb-2 font-semibold text-late">
                The last daily backup could not be made: {view.failed}
              </p>
            )}
            {view.folder === '' ? (
              <p className="text-ink-2">This server keeps no daily backups.</p>
            ) : (
              <>
                <p>
                  One is kept of each day that the shop was served, the last {view.days}, in{' '}
                  <span className="break-all">{view.folder}</span>.
                </p>
                <ul>
                  {view.kept.map((b) => (
                    <li key={b.name} className="flex flex-wrap items-center gap-x-4 border-t border-line">
                      <a className={linkLook} href={`/api/backups/${b.name}/file`} download>
                        {b.name}
                      </a>
                      <span className="text-ink-2">
                        <Told more={b.made.full}>{b.made.said}</Told>, {b.size}
                      </span>
                    </li>
                  ))}
                </ul>
              </>
            )}
            <div className="mt-3 border-t border-line pt-3">
              {view.empty ? (
                <Restore
                  most={view.most}
                  done={() => {
                    void queries.invalidateQueries()
                    toast({ text: 'The backup is restored', detail: 'All screens show it now.' })
                  }}
                />
              ) : (
                <p className="text-ink-2">
                  A backup is restored into an empty shop only, so that none is overwritten: start one in another folder
                  with <code>umberfrost start --data FOLDER</code>.
                </p>
              )}
            </div>
          </>
        )}
      </Asking>
    </section>
  )
}

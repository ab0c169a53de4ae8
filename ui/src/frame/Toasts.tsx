import { X } from 'lucide-react'
import { useLog } from './logging'
import { dismiss, useToasts } from '../parts/toasts'

/** Toasts stand at the foot of the page for ten seconds: long enough to undo. */
export function Toasts() {
  const list = useToasts()
  const { log } = useLog()
  return (
    <div
      className="pointer-events-none fixed inset-x-0 bottom-16 z-40 flex flex-col items-center gap-2 px-3 md:bottom-6"
      role="status"
    >
      {list.map((t) => (
        <div
          key={t.id}
          data-toast
          className={`pointer-events-auto flex w-full max-w-lg items-center gap-3 border-l-4 bg-band px-4 py-2 text-band-text shadow-lg ${t.bad ? 'border-late' : 'border-ready'}`}
        >
          <div className="min-w-0 flex-1">
            <p className="font-semibold">{t.text}</p>
            {t.detail && <p className="text-sm opacity-90">{t.detail}</p>}
          </div>
          {t.undoes && (
            <button
              className="min-h-11 px-3 font-bold underline underline-offset-4"
              onClick={() => {
                log({ kind: 'void', voids: t.undoes, caughtUp: true })
                dismiss(t.id)
              }}
            >
              Undo
            </button>
          )}
          <button className="grid size-11 place-items-center" aria-label="Dismiss" onClick={() => dismiss(t.id)}>
            <X className="size-5" />
          </button>
        </div>
      ))}
    </div>
  )
}

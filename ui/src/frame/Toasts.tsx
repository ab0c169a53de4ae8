import { X } from 'lucide-react'
import { Toast } from 'radix-ui'
import { dismiss, standsFor, useToasts } from '../parts/toasts'
import { useLog } from './logging'

/** Toasts stand at the foot of the page long enough to undo, longer while a pointer or the focus is on them. */
export function Toasts() {
  const list = useToasts()
  const { log } = useLog()
  return (
    <Toast.Provider duration={standsFor} swipeDirection="right" label="What just happened">
      {list.map((t) => (
        <Toast.Root
          key={t.id}
          data-toast
          type={t.bad ? 'foreground' : 'background'}
          onOpenChange={(open) => !open && dismiss(t.id)}
          className={`pointer-events-auto grid w-full max-w-lg grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-l-4 bg-band px-4 py-2 text-band-text shadow-lg ${t.bad ? 'border-late' : 'border-ready'}`}
        >
          <div className="min-w-0">
            <Toast.Title className="font-semibold">{t.text}</Toast.Title>
            {t.detail && <Toast.Description className="text-sm opacity-90">{t.detail}</Toast.Description>}
          </div>
          <Toast.Close className="grid size-11 place-items-center" aria-label="Dismiss">
            <X className="size-5" />
          </Toast.Close>
          {(t.undoes ?? t.takeBack) && (
            <div className="col-span-2 flex flex-wrap justify-end gap-x-3">
              {t.undoes && (
                <Toast.Action
                  altText="Strike the entry in the log of its instrument"
                  data-undo
                  className="min-h-11 px-3 font-bold underline underline-offset-4"
                  onClick={() => log({ kind: 'void', voids: t.undoes, caughtUp: true }, `Undo of: ${t.text}`)}
                >
                  Undo
                </Toast.Action>
              )}
              {t.timer && (
                <Toast.Action
                  altText="Start it from the sheet of the step"
                  data-timer
                  className="min-h-11 px-3 font-bold underline underline-offset-4"
                  onClick={t.timer.start}
                >
                  {t.timer.text}
                </Toast.Action>
              )}
              {t.adds && (
                <Toast.Action
                  altText="Put it right from the log of its instrument"
                  className="min-h-11 px-3 font-bold whitespace-nowrap underline underline-offset-4"
                  onClick={t.adds}
                >
                  Say more
                </Toast.Action>
              )}
              {t.takeBack && (
                <Toast.Action
                  altText="Log it again from the log of its instrument"
                  data-undo
                  className="min-h-11 px-3 font-bold whitespace-nowrap underline underline-offset-4"
                  onClick={t.takeBack}
                >
                  Log it again
                </Toast.Action>
              )}
            </div>
          )}
        </Toast.Root>
      ))}
      <Toast.Viewport className="pointer-events-none fixed inset-x-0 bottom-16 z-40 flex flex-col items-center gap-2 px-3 outline-none md:bottom-6" />
    </Toast.Provider>
  )
}

import { useId, type ReactNode } from 'react'

export const inputLook =
  'min-h-11 w-full min-w-0 rounded-sm border border-ink-3 bg-raised px-2 aria-invalid:border-2 aria-invalid:border-late'

interface Wiring {
  id: string
  'aria-invalid': boolean
  'aria-describedby': string | undefined
}

/** Field is a labelled input; a fault stands below it and says what would be accepted. */
export function Field({
  label,
  fault,
  beside,
  headed,
  children,
}: {
  label: string
  fault?: string
  /** The label stands beside the input, not above. */
  beside?: boolean
  /** What stands around the input says what it is; its label is only read out. */
  headed?: boolean
  children: (a: Wiring) => ReactNode
}) {
  const id = useId()
  return (
    <div className={beside ? 'grid grid-cols-[104px_1fr] items-center' : 'min-w-0'}>
      <label htmlFor={id} className={headed ? 'sr-only' : beside ? 'text-ink-2' : 'mb-1 block font-semibold'}>
        {label}
      </label>
      {children({ id, 'aria-invalid': fault !== undefined, 'aria-describedby': fault ? `${id}-fault` : undefined })}
      {fault && (
        <p id={`${id}-fault`} className={`mt-1 text-sm text-late ${beside ? 'col-start-2' : ''}`} data-fault>
          {fault}
        </p>
      )}
    </div>
  )
}

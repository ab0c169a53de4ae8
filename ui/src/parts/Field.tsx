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
  children,
}: {
  label: string
  fault?: string
  children: (a: Wiring) => ReactNode
}) {
  const id = useId()
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {children({ id, 'aria-invalid': fault !== undefined, 'aria-describedby': fault ? `${id}-fault` : undefined })}
      {fault && (
        <p id={`${id}-fault`} className="mt-1 text-sm text-late" data-fault>
          {fault}
        </p>
      )}
    </div>
  )
}

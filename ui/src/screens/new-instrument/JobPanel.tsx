import { Button } from '../../parts/Button'
import { Day } from '../../parts/fields/Day'
import { Text } from '../../parts/fields/Text'
import { shown, type FormProps } from './fields'

type Props = FormProps & { onKeep: () => void }

/** JobPanel is what makes a finish a job: a name, a promise, and keeping it. All of it can wait. */
export function JobPanel(props: Props) {
  const { reference, draft, change, onKeep } = props
  const fault = shown(props)
  return (
    <form
      id="job"
      noValidate
      className="panel space-y-3 p-4"
      onSubmit={(e) => {
        e.preventDefault()
        onKeep()
      }}
    >
      <Text label="Name" value={draft.name} fault={fault('name')} onChange={(name) => change({ name }, 'name')} />
      <div>
        <Day
          label="Promised day"
          min={reference.today}
          value={draft.promise}
          fault={fault('promise')}
          onChange={(promise) => change({ promise }, 'promise')}
        />
        {!draft.promise && <p className="mt-1 text-sm text-ink-2">Left open: as soon as it can be.</p>}
      </div>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-1">
        <Day
          label="Fit to be shown"
          min={reference.today}
          value={draft.show}
          fault={fault('show')}
          onChange={(show) => change({ show }, 'show')}
        />
        <Text
          label="Serial or mark"
          value={draft.serial}
          fault={fault('serial')}
          onChange={(serial) => change({ serial }, 'serial')}
        />
      </div>
      {fault('wish.pieces') && <p className="text-late">{fault('wish.pieces')}</p>}
    </form>
  )
}

interface KeepProps {
  keeping: boolean
  /** When it would be ready, in a few words. */
  ready?: string
  onStartOver: () => void
}

/** KeepBar stays in sight: when it would be ready, and keeping it. */
export function KeepBar({ keeping, ready, onStartOver }: KeepProps) {
  return (
    <div className="sticky bottom-14 z-20 -mx-4 mt-4 flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line bg-panel px-4 py-2 md:bottom-0 print:hidden">
      <Button needs="shop" type="submit" form="job" look="loud" disabled={keeping}>
        {keeping ? 'Keeping…' : 'Keep this instrument'}
      </Button>
      <Button look="bare" onClick={onStartOver}>
        Start over
      </Button>
      {ready && (
        <p className="font-semibold max-sm:order-first max-sm:w-full max-sm:text-sm" data-ready>
          {ready}
        </p>
      )}
    </div>
  )
}

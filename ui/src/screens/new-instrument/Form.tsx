import type { Forecast } from '../../api/client'
import { Button } from '../../parts/Button'
import { Arrivals } from './Arrivals'
import { Begin } from './Begin'
import { Materials } from './Materials'
import { OutlineChoice } from './OutlineChoice'
import { PieceFields } from './PieceFields'
import { Day } from '../../parts/fields/Day'
import { Text } from '../../parts/fields/Text'
import { WholeFields } from './WholeFields'
import { shown, type FormProps } from './fields'

type Props = FormProps & {
  roles: Forecast['roles']
  keeping: boolean
  /** When it would be ready, in a few words. */
  ready?: string
  onKeep: () => void
  onStartOver: () => void
}

/** Form is everything a person chooses for a new job. */
export function Form(props: Props) {
  const { reference, draft, change, roles, keeping, ready, onKeep, onStartOver } = props
  const fault = shown(props)
  return (
    <form
      noValidate
      className="panel space-y-4 p-4"
      onSubmit={(e) => {
        e.preventDefault()
        onKeep()
      }}
    >
      <div className="grid gap-4 sm:grid-cols-2">
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
        <Text
          label="Serial or mark"
          value={draft.serial}
          fault={fault('serial')}
          onChange={(serial) => change({ serial }, 'serial')}
        />
        <Day
          label="Fit to be shown"
          min={reference.today}
          value={draft.show}
          fault={fault('show')}
          onChange={(show) => change({ show }, 'show')}
        />
      </div>
      <Begin {...props} />
      <OutlineChoice {...props} />
      <PieceFields {...props} kind="body" />
      <PieceFields {...props} kind="neck" />
      {fault('wish.pieces') && <p className="text-late">{fault('wish.pieces')}</p>}
      <WholeFields {...props} />
      <Arrivals {...props} />
      <Materials {...props} roles={roles} />
      <div className="sticky bottom-14 z-10 -mx-4 -mb-4 flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line bg-panel px-4 py-3 md:bottom-0">
        {ready && (
          <p className="w-full text-sm font-semibold lg:sr-only" data-ready>
            {ready}
          </p>
        )}
        <Button type="submit" look="loud" disabled={keeping}>
          {keeping ? 'Keeping…' : 'Keep this instrument'}
        </Button>
        <Button look="bare" onClick={onStartOver}>
          Start over
        </Button>
      </div>
    </form>
  )
}

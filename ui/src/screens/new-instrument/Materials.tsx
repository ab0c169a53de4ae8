import type { Forecast } from '../../api/client'
import { shown, type FormProps } from './fields'
import { Choice } from '../../parts/fields/Choice'

/** Materials are the products for what the schedule takes; without one the family's usual figures stand in. */
export function Materials({ roles, ...props }: FormProps & { roles: Forecast['roles'] }) {
  const { draft, change } = props
  const fault = shown(props)
  const stocked = roles.filter((r) => r.products.length > 0)
  if (stocked.length === 0) return null
  const choose = (role: string, product: string) => {
    const others = Object.entries(draft.materials ?? {}).filter(([other]) => other !== role)
    change({ materials: Object.fromEntries(product ? [...others, [role, product]] : others) }, `materials.${role}`)
  }
  return (
    <fieldset className="space-y-3 border-t border-line pt-3">
      <legend className="sr-only">Materials from the shelf</legend>
      <p className="name text-lg" aria-hidden="true">
        From the shelf
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        {stocked.map((role) => (
          <Choice
            key={role.id}
            label={`${role.title}, ${role.piece}`}
            value={draft.materials?.[role.id]}
            options={[
              { id: '', text: 'any, by its family' },
              ...role.products.map((p) => ({ id: p.id, text: p.name })),
            ]}
            fault={fault(`materials.${role.id}`)}
            onChange={(product) => choose(role.id, product)}
          />
        ))}
      </div>
    </fieldset>
  )
}

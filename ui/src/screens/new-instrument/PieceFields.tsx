import type { NewPiece } from '../../api/client'
import { firstPiece, recipeOf } from './draft'
import { Field, inputLook } from '../../parts/Field'
import { shown, type FormProps } from './Form'

type Props = FormProps & { kind: 'body' | 'neck' }

const sizes = { body: ['length', 'width', 'thickness'], neck: ['length', 'width'] } as const

/** PieceFields is one piece of the job: whether it is part of it, and what was chosen for it. */
export function PieceFields(props: Props) {
  const { kind, draft, change } = props
  const piece = draft[kind]
  return (
    <fieldset className="border-t border-line pt-3">
      <legend className="sr-only">{kind}</legend>
      <label className="flex min-h-11 cursor-pointer items-center gap-3">
        <input
          type="checkbox"
          className="size-5 accent-ready"
          checked={piece !== undefined}
          onChange={(e) => change({ [kind]: e.target.checked ? firstPiece(kind) : undefined }, 'pieces')}
        />
        <span className="name text-lg">{kind === 'body' ? 'A body' : 'A neck'}</span>
      </label>
      {piece && <Choices {...props} piece={piece} />}
    </fieldset>
  )
}

function Choices({ piece, ...props }: Props & { piece: NewPiece }) {
  const { kind, reference, change } = props
  const fault = shown(props)
  const recipe = recipeOf(reference, piece.recipe)
  const set = (field: string, value: string) => change({ [kind]: { ...piece, [field]: value } }, `${kind}.${field}`)
  const timber = recipe?.woods.find((w) => w.id === piece.wood)
  return (
    <div className="space-y-3">
      <Field label="Recipe" fault={fault(`${kind}.recipe`)}>
        {(a) => (
          <select {...a} className={inputLook} value={piece.recipe} onChange={(e) => set('recipe', e.target.value)}>
            {reference.recipes
              .filter((r) => r.piece === kind)
              .map((r) => (
                <option key={r.id} value={r.id}>
                  {r.title}
                </option>
              ))}
          </select>
        )}
      </Field>
      <p className="text-sm text-ink-2">{recipe?.summary}</p>
      <Field label="Wood" fault={fault(`${kind}.wood`)}>
        {(a) => (
          <select {...a} className={inputLook} value={piece.wood} onChange={(e) => set('wood', e.target.value)}>
            {recipe?.woods.map((w) => (
              <option key={w.id} value={w.id}>
                {w.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      {timber?.advice && <p className="text-sm text-ink-2">{timber.advice}</p>}
      <div className="grid grid-cols-3 gap-3">
        {sizes[kind].map((size) => (
          <Field key={size} label={size.charAt(0).toUpperCase() + size.slice(1)} fault={fault(`${kind}.${size}`)}>
            {(a) => (
              <input
                {...a}
                className={inputLook}
                value={piece[size] ?? ''}
                onChange={(e) => set(size, e.target.value)}
              />
            )}
          </Field>
        ))}
      </div>
      <Materials {...props} piece={piece} />
    </div>
  )
}

function Materials({ piece, ...props }: Props & { piece: NewPiece }) {
  const { kind, reference, change } = props
  const fault = shown(props)
  const choose = (role: string, product: string) => {
    const others = Object.entries(piece.materials ?? {}).filter(([other]) => other !== role)
    const materials = Object.fromEntries(product ? [...others, [role, product]] : others)
    change({ [kind]: { ...piece, materials } }, `${kind}.materials.${role}`)
  }
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      {recipeOf(reference, piece.recipe)?.roles.map((role) => (
        <Field key={role.id} label={role.title} fault={fault(`${kind}.materials.${role.id}`)}>
          {(a) => (
            <select
              {...a}
              className={inputLook}
              value={piece.materials?.[role.id] ?? ''}
              onChange={(e) => choose(role.id, e.target.value)}
            >
              <option value="">any, by its family</option>
              {role.products.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          )}
        </Field>
      ))}
    </div>
  )
}

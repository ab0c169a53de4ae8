import { useMutation } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { Problem, api, type RecipeLine } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useRecipes } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { toast } from '../../parts/toasts'
import { Field, inputLook } from '../../parts/fields/Field'
import { RecipePanel } from './RecipePanel'

const kinds = { stack: 'stacks for a piece', schedule: 'whole schedules', fragment: 'fragments' } as const

/** RecipesScreen is the recipes of the shop's own, and the one that is chosen. */
export function RecipesScreen() {
  const { id } = useParams()
  const recipes = useRecipes()
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-baseline gap-x-4 py-3">
        <ScreenTitle tab="Recipes of our own" />
        <Link to="/shop" className="text-ink-2 underline decoration-ink-3 underline-offset-4 hover:text-ink">
          Back to the shop
        </Link>
      </header>
      <Asking query={recipes}>
        {(list) => (
          <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[320px_minmax(0,1fr)]">
            <div className="grid gap-4">
              <List list={list} chosen={id} />
              <FromFile />
            </div>
            {id ? <RecipePanel key={id} id={id} all={list} /> : <Teaching empty={list.length === 0} />}
          </div>
        )}
      </Asking>
    </div>
  )
}

function List({ list, chosen }: { list: RecipeLine[]; chosen?: string }) {
  if (list.length === 0) return null
  return (
    <nav className="panel p-2" aria-label="Recipes" data-recipes>
      {(['stack', 'schedule', 'fragment'] as const)
        .filter((kind) => list.some((r) => r.kind === kind))
        .map((kind) => (
          <section key={kind}>
            <h2 className="px-2 pt-2 text-sm text-ink-2">{kinds[kind]}</h2>
            <ul>
              {list
                .filter((r) => r.kind === kind)
                .map((r) => (
                  <li key={r.id}>
                    <Link
                      to={`/recipes/${r.id}`}
                      aria-current={r.id === chosen ? 'page' : undefined}
                      className={`block min-h-11 border-l-4 px-2 py-1.5 hover:bg-raised ${r.id === chosen ? 'border-umber bg-raised' : 'border-transparent'}`}
                    >
                      <b className={r.retired ? 'line-through' : ''}>{r.name}</b>
                      <span className="block text-[13px] text-ink-2">
                        version {r.version} · {r.about} · {usedText(r.used)}
                      </span>
                    </Link>
                  </li>
                ))}
            </ul>
          </section>
        ))}
    </nav>
  )
}

const usedText = (n: number) => (n === 0 ? 'not used yet' : n === 1 ? 'used once' : `used by ${n}`)

/** Teaching says what belongs here, and how it comes here. */
function Teaching({ empty }: { empty: boolean }) {
  return (
    <section className="panel max-w-prose space-y-2 p-4">
      <h2 className="name text-lg">{empty ? 'No recipe of our own yet' : 'Choose a recipe'}</h2>
      <p>
        A <b>stack</b> is saved where it is made, on New instrument or under Choices. A <b>schedule</b> or a{' '}
        <b>fragment</b> of one is saved from an instrument, under <i>Change the schedule</i>.
      </p>
      <p className="text-ink-2">
        For example: “Oil, five thin coats” as a stack; “Level and three films” as a fragment that is put behind any
        last coat. A recipe that is bettered is offered to the instruments that use it.
      </p>
    </section>
  )
}

function FromFile() {
  const read = useMutation({
    mutationFn: async (file: File) => api.readRecipe(await file.text()),
    networkMode: 'always',
    onSuccess: (r) => {
      toast({ text: `Read: ${r.name}, version ${r.version}` })
      refresh('settings')
    },
  })
  const problem = read.error instanceof Problem ? read.error : undefined
  const fault = problem && (problem.faults.map((f) => f.message).join(' ') || problem.message)
  return (
    <section className="panel p-4">
      <Field label="A recipe from a file" fault={fault}>
        {(a) => (
          <input
            {...a}
            type="file"
            accept=".json,application/json"
            className={`${inputLook} py-2`}
            onChange={(e) => {
              const file = e.target.files?.[0]
              if (file) read.mutate(file)
              e.target.value = ''
            }}
          />
        )}
      </Field>
    </section>
  )
}

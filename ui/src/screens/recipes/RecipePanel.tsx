import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Problem, api, type RecipeLine, type RecipeUse, type RecipeView } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useCompared, useRecipe } from '../../api/queries'
import { suppose } from '../../api/supposing'
import { Asking } from '../../parts/Asking'
import { Button } from '../../parts/Button'
import { Told } from '../../parts/Told'
import { toast } from '../../parts/toasts'
import { Choice } from '../../parts/fields/Choice'
import { Committed } from '../../parts/fields/Committed'

/** RecipePanel is one recipe: its versions, what uses it, and two versions beside one another. */
export function RecipePanel({ id, all }: { id: string; all: RecipeLine[] }) {
  return <Asking query={useRecipe(id)}>{(recipe) => <Full recipe={recipe} all={all} />}</Asking>
}

function Full({ recipe, all }: { recipe: RecipeView; all: RecipeLine[] }) {
  return (
    <div className="grid gap-4" data-recipe={recipe.name}>
      <section className="panel p-4">
        <h2 className="name mb-3 text-xl">{recipe.name}</h2>
        <Naming recipe={recipe} />
      </section>
      {recipe.uses.length > 0 && <Uses uses={recipe.uses} latest={recipe.version} />}
      <Versions recipe={recipe} all={all} />
    </div>
  )
}

function Naming({ recipe }: { recipe: RecipeView }) {
  const name = useMutation({
    mutationFn: (to: { name?: string; retired?: boolean }) =>
      api.nameRecipe({ id: recipe.id, name: recipe.name, retired: recipe.retired, ...to }),
    networkMode: 'always',
    onSuccess: () => refresh('settings'),
    onError: (e) =>
      toast({ bad: true, text: 'Not kept', detail: e instanceof Problem ? e.faults[0]?.message : String(e) }),
  })
  return (
    <div className="flex flex-wrap items-end gap-3">
      <div className="min-w-0 grow basis-60">
        <Committed
          label="Name"
          maxLength={60}
          required
          value={recipe.name}
          onCommit={(to) => name.mutate({ name: to })}
        />
      </div>
      <Button onClick={() => name.mutate({ retired: !recipe.retired })}>
        {recipe.retired ? 'Offer it again' : 'Offer it no more'}
      </Button>
      <a
        href={`/api/recipes/${recipe.id}/file`}
        download
        className="inline-flex min-h-11 items-center px-2 font-semibold underline underline-offset-4"
      >
        As a file
      </a>
    </div>
  )
}

/** Uses are the instruments that use the recipe; those that are not past that point are offered the latest, with its effect. */
function Uses({ uses, latest }: { uses: RecipeUse[]; latest: number }) {
  return (
    <section className="panel p-4" data-uses>
      <h2 className="name mb-1 text-lg">What uses it</h2>
      <ul>
        {uses.map((u) => (
          <li
            key={`${u.instrumentId} ${u.where}`}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-2"
            data-use={u.name}
          >
            <Link to={`/instruments/${u.instrumentId}`} className="font-semibold underline underline-offset-4">
              {u.name}
            </Link>
            <span className="text-ink-2">
              {u.where}, version {u.version}
            </span>
            {u.offered ? (
              <>
                <span className={u.late ? 'font-semibold text-late' : ''}>
                  version {latest}: {u.effect}
                  {u.late && ', its promise would break'}
                </span>
                <Button
                  className="ml-auto"
                  aria-label={`See what it does: version ${latest} on ${u.name}`}
                  onClick={() => u.changes.forEach(suppose)}
                >
                  See what it does
                </Button>
              </>
            ) : (
              <span className="text-ink-2">{u.why}</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

function Versions({ recipe, all }: { recipe: RecipeView; all: RecipeLine[] }) {
  const others = [
    ...recipe.versions
      .filter((v) => v.version !== recipe.version)
      .map((v) => ({ id: `${recipe.id}/${v.version}`, text: `version ${v.version}` })),
    ...all
      .filter((r) => r.id !== recipe.id && r.kind === recipe.kind)
      .map((r) => ({ id: `${r.id}/${r.version}`, text: `${r.name}, version ${r.version}` })),
  ]
  const [with_, setWith] = useState('')
  const [other = '', version = ''] = with_.split('/')
  const compared = useCompared(
    with_ ? { a: { id: other, version: Number(version) }, b: { id: recipe.id, version: recipe.version } } : undefined,
  )
  return (
    <section className="panel space-y-3 p-4" data-versions>
      <h2 className="name text-lg">What it says</h2>
      {others.length > 0 && (
        <Choice label="Beside" value={with_} options={[{ id: '', text: 'nothing' }, ...others]} onChange={setWith} />
      )}
      {with_ && compared.data ? (
        <table className="w-full table-fixed text-sm" data-compared>
          <thead>
            <tr className="text-left text-ink-2">
              <th scope="col">{others.find((o) => o.id === with_)?.text}</th>
              <th scope="col">version {recipe.version}</th>
            </tr>
          </thead>
          <tbody>
            {(compared.data.lines ?? []).map((d, i) => (
              <tr
                key={i}
                className={`border-t border-line align-top ${d.a === d.b ? '' : 'font-semibold text-closing'}`}
              >
                <td className="py-1 pr-3">{d.a}</td>
                <td className="py-1">{d.b}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        recipe.versions.map((v) => (
          <details key={v.version} open={v.version === recipe.version} className="border-t border-line pt-2">
            <summary className="min-h-11 cursor-pointer font-semibold">
              Version {v.version}
              {v.note && `: ${v.note}`}{' '}
              <span className="font-normal text-ink-2">
                <Told more={v.at.full}>{v.at.said}</Told>
                {v.by && `, ${v.by}`}
              </span>
            </summary>
            <ol className="list-decimal pl-6 text-sm">
              {(v.lines ?? []).map((l, i) => (
                <li key={i}>{l.text}</li>
              ))}
            </ol>
          </details>
        ))
      )}
    </section>
  )
}

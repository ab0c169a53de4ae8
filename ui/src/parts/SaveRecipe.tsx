import { useMutation } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { v7 as uuid } from 'uuid'
import { Problem, api, type RecipeSaved, type RecipeView } from '../api/client'
import { refresh } from '../api/fresh'
import { useRecipes } from '../api/queries'
import { useWhoKnown } from '../api/who'
import { Button } from './Button'
import { Over } from './Over'
import { toast } from './toasts'
import { Choice } from './fields/Choice'
import { Text } from './fields/Text'

interface Props {
  title: string
  kind: RecipeSaved['kind']
  /** What is saved beside its name. */
  what: Pick<RecipeSaved, 'stack' | 'instrumentId' | 'stepIds'>
  label: string
  className?: string
  onSaved?: (saved: RecipeView) => void
  /** More to be chosen of what is saved. */
  children?: ReactNode
}

/** SaveRecipe saves what is there as a recipe of the shop's own, or as another version of one. */
export function SaveRecipe({ label, className, ...rest }: Props) {
  const [open, setOpen] = useState(false)
  return (
    <Over
      title={rest.title}
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button needs="shop" className={className}>
          {label}
        </Button>
      }
    >
      {open && <SaveForm {...rest} onDone={() => setOpen(false)} />}
    </Over>
  )
}

function SaveForm({
  kind,
  what,
  children,
  onSaved,
  onDone,
}: Omit<Props, 'label' | 'className' | 'title'> & { onDone: () => void }) {
  const who = useWhoKnown()
  const known = (useRecipes().data ?? []).filter((r) => r.kind === kind && !r.retired)
  const [fresh] = useState(() => uuid())
  const [id, setId] = useState('')
  const [name, setName] = useState('')
  const [note, setNote] = useState('')
  const chosen = known.find((r) => r.id === id)
  const save = useMutation({
    mutationFn: async () =>
      api.saveRecipe({
        id: chosen?.id ?? fresh,
        name: chosen?.name ?? name,
        kind,
        note,
        ...what,
        personId: await who(),
      }),
    networkMode: 'always',
    onSuccess: (saved) => {
      toast({ text: `Saved: ${saved.name}, version ${saved.version}` })
      refresh('settings')
      onSaved?.(saved)
      onDone()
    },
  })
  const problem = save.error instanceof Problem ? save.error : undefined
  const fault = (field: string) => problem?.faults.find((f) => f.location === `body.${field}`)?.message
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      {children}
      {known.length > 0 && (
        <Choice
          label="As"
          value={id}
          options={[
            { id: '', text: 'a new recipe' },
            ...known.map((r) => ({ id: r.id, text: `version ${r.version + 1} of ${r.name}` })),
          ]}
          onChange={setId}
        />
      )}
      {!chosen && (
        <Text
          label="Name of the recipe"
          required
          maxLength={60}
          value={name}
          fault={fault('name')}
          onChange={setName}
        />
      )}
      {chosen && (
        <Text label="What is better about it" maxLength={200} value={note} fault={fault('note')} onChange={setNote} />
      )}
      {problem && !fault('name') && (
        <p className="font-semibold text-late" role="alert">
          {problem.faults[0]?.message ?? problem.message}
        </p>
      )}
      <div className="flex justify-end gap-3">
        <Button needs="shop" onClick={onDone}>
          Not now
        </Button>
        <Button needs="shop" look="loud" type="submit" disabled={save.isPending || (!chosen && name.trim() === '')}>
          Save it
        </Button>
      </div>
    </form>
  )
}

import { useEffect } from 'react'
import { useForm, type DefaultValues, type FieldValues, type Path } from 'react-hook-form'
import { forget, keep, readKept, type Shape } from '../../api/kept'
import { useValues } from './bind'

/** useKeptForm is a form that survives a reload until it is kept or undone; what nobody touched follows what is stored. */
export function useKeptForm<T extends FieldValues>(key: string, shape: Shape<Partial<T>>, stored: T) {
  const form = useForm<T>({
    defaultValues: stored as DefaultValues<T>,
    values: stored,
    resetOptions: { keepDirtyValues: true },
  })
  const touched = Object.keys(form.formState.dirtyFields).length > 0
  useEffect(() => {
    for (const [name, value] of Object.entries(readKept(key, shape, {})))
      form.setValue(name as Path<T>, value, { shouldDirty: true })
    return form.subscribe({
      formState: { values: true, dirtyFields: true },
      callback: ({ values, dirtyFields = {} }) => {
        const typed = Object.fromEntries(Object.entries(values).filter(([name]) => name in dirtyFields))
        if (Object.keys(typed).length > 0) keep(key, typed)
        else forget(key)
      },
    })
  }, [form, key, shape])
  const clear = () => {
    forget(key)
    form.reset(stored)
  }
  return { form, value: useValues(form), touched, clear }
}

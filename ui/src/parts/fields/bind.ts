import { useWatch, type FieldValues, type Path, type PathValue, type UseFormReturn } from 'react-hook-form'

/** useValues is what a form holds now; its screen is drawn again when that changes. */
export function useValues<T extends FieldValues>(form: UseFormReturn<T>): T {
  return useWatch({ control: form.control }) as T
}

/** bind gives a field the value of a form under a name, and what it is changed to. */
export function bind<T extends FieldValues, N extends Path<T>>(form: UseFormReturn<T>, name: N) {
  return {
    value: form.getValues(name),
    onChange: (value: PathValue<T, N>) => form.setValue(name, value, { shouldDirty: true }),
  }
}

import { useState, type ComponentProps } from 'react'
import { Text } from './Text'

type Props = Omit<ComponentProps<typeof Text>, 'value' | 'onChange'> & {
  value: string
  onCommit: (value: string) => void
}

/** Committed is a line of text that counts once it is left, or Enter is pressed: not with every key. */
export function Committed({ value, onCommit, ...rest }: Props) {
  const [typed, setTyped] = useState<string>()
  const commit = () => {
    setTyped(undefined)
    if (typed !== undefined && typed.trim() !== value) onCommit(typed.trim())
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        commit()
      }}
      onBlur={commit}
    >
      <Text {...rest} value={typed ?? value} onChange={setTyped} />
    </form>
  )
}

import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Problem, api } from '../../api/client'
import { useDoor } from '../../api/door'
import { queries } from '../../api/queries'
import { Button } from '../../parts/Button'
import { Text } from '../../parts/fields/Text'
import { toast } from '../../parts/toasts'

/** PinRow is what somebody enters before they are on a paired device, or that nothing is asked for. */
export function PinRow({ id, name }: { id: string; name: string }) {
  const has = useDoor().data?.pins.includes(id) ?? false
  const [pin, setPin] = useState('')
  const set = useMutation({
    mutationFn: (next: string) => api.setPin({ personId: id, pin: next }),
    networkMode: 'always',
    onSuccess: (door, next) => {
      queries.setQueryData(['door'], door)
      setPin('')
      toast({ text: next === '' ? `No PIN is asked for before ${name} is on a device` : `${name} has a PIN now` })
    },
  })
  const fault = set.error instanceof Problem ? (set.error.faults[0]?.message ?? set.error.message) : undefined
  return (
    <form
      className="flex flex-wrap items-end gap-3 border-t border-line pt-3"
      onSubmit={(e) => {
        e.preventDefault()
        set.mutate(pin)
      }}
    >
      <div className="min-w-40 flex-1">
        <Text
          label={has ? 'Another PIN for paired devices, 4 to 8 digits' : 'PIN for paired devices, 4 to 8 digits'}
          type="password"
          inputMode="numeric"
          maxLength={8}
          value={pin}
          onChange={setPin}
          fault={fault}
        />
      </div>
      <Button type="submit" disabled={pin === '' || set.isPending}>
        Set PIN
      </Button>
      {has && <Button onClick={() => set.mutate('')}>Ask for none</Button>}
    </form>
  )
}

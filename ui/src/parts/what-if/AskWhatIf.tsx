import { useState } from 'react'
import { suppose } from '../../api/supposing'
import { Button } from '../Button'
import { Over } from '../Over'
import { lazily } from '../lazily'

const WhatIfForm = lazily(() => import('./WhatIfForm').then((m) => m.WhatIfForm))

/** AskWhatIf asks what would be otherwise; the answer stands in the tray at the foot of every screen. */
export function AskWhatIf({ instrumentId, look = 'plain' }: { instrumentId?: string; look?: 'plain' | 'dark' }) {
  const [open, setOpen] = useState(false)
  return (
    <Over title="What if" open={open} onOpenChange={setOpen} trigger={<Button look={look}>What if…</Button>}>
      <WhatIfForm
        instrumentId={instrumentId}
        ask={(change) => {
          suppose(change)
          setOpen(false)
        }}
      />
      <p className="mt-4 text-sm text-ink-2">
        Nothing is changed by asking. What it does to every instrument stands at the foot of the screen, beside what
        else you suppose, until you keep it or drop it.
      </p>
    </Over>
  )
}

import { useState } from 'react'
import type { Entry, Sheet } from '../../api/client'
import { useLog } from '../../frame/logging'
import { Button } from '../../parts/Button'
import { Choice } from '../../parts/fields/Choice'

type By = NonNullable<Entry['actual']>['testedBy']

/** TestFilm is where a film is tested for what is waited for: a pass ends the wait, a fail makes it longer. */
export function TestFilm({ test, of }: { test: NonNullable<Sheet['test']>; of: string }) {
  const { log } = useLog()
  const [way, setWay] = useState(test.ways[0]?.id ?? '')
  const say = (passed: boolean) =>
    void log(
      { kind: 'tested', ...test.event, milestone: test.milestone, passed, actual: { testedBy: way as By } },
      `${passed ? 'Passed' : 'Not passed'}, ${test.text}: ${test.title}, ${of}`,
    )
  return (
    <details className="mt-4 border-l-4 border-drying bg-drying-fill px-3" data-test-film>
      <summary className="min-h-11 cursor-pointer py-2.5 text-drying">
        <b>Test the film…</b> {test.title}: {test.text}?
      </summary>
      <p className="mb-2">A pass ends the wait, a fail makes it longer.</p>
      <Choice label="How" value={way} options={test.ways} onChange={setWay} />
      <div className="mt-2 flex flex-wrap gap-3 pb-3">
        <Button needs="bench" onClick={() => say(true)}>
          Passed
        </Button>
        <Button needs="bench" onClick={() => say(false)}>
          Not yet
        </Button>
      </div>
    </details>
  )
}

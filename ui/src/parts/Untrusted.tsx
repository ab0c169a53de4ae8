import type { DoorView } from '../api/client'
import { useTrusted } from '../api/door'

/** Untrusted says on a device that only clicked the certificate's warning away what that costs, and what to do. */
export function Untrusted({ door }: { door: DoorView }) {
  const trusted = useTrusted()
  if (trusted !== false || door.here) return null
  return (
    <div className="mt-4 border-l-4 border-closing bg-closing-fill px-3 py-2 text-closing" data-untrusted>
      <p className="font-semibold">This device does not trust the shop’s certificate.</p>
      <p>
        It works while the shop can be reached, and opens nothing while the network is away: a warning that was clicked
        away does not do for that.{' '}
        {door.authority ? (
          <>
            <a className="underline" href="/authority.crt" download>
              Take the shop’s certificate
            </a>
            , compare its fingerprint with what <code>umberfrost trust</code> has said, and let the device trust it for
            websites in its settings. Then open this page again.
          </>
        ) : (
          <>Whoever runs the server gave it a certificate that this device does not know: ask them for its authority.</>
        )}
      </p>
    </div>
  )
}

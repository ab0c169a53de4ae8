/** NotSent says that something is logged on this device and the shop does not have it yet. */
export function NotSent() {
  return (
    <span className="inline-block rounded-sm bg-closing-fill px-2 py-0.5 text-sm font-bold text-closing" data-not-sent>
      logged here, not sent yet
    </span>
  )
}

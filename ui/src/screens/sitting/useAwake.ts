import { useEffect } from 'react'

/** useAwake keeps the screen of this device on, where the device lets a page do so. */
export function useAwake() {
  useEffect(() => {
    let held: WakeLockSentinel | undefined
    let over = false
    const hold = async () => {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return
      try {
        held = await navigator.wakeLock.request('screen')
        if (over) void held.release()
      } catch {
        // A device that saves power may refuse.
      }
    }
    void hold()
    const again = () => void hold()
    document.addEventListener('visibilitychange', again)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', again)
      void held?.release()
    }
  }, [])
}

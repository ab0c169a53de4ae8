import { useMutation } from '@tanstack/react-query'
import { Problem, api } from '../api/client'

/** Restore puts a backup that this device has into an empty shop. */
export function Restore({ most, done }: { most: number; done: () => void }) {
  const restore = useMutation({
    mutationFn: async (file: File) => {
      if (file.size > most)
        throw new Problem(
          413,
          'about:blank',
          `The file is too large for a browser: at most ${most >> 20} MB are accepted; umberfrost restore takes any size.`,
          [],
        )
      return api.restore(file)
    },
    networkMode: 'always',
    onSuccess: done,
  })
  return (
    <div className="grid gap-2" data-restore>
      <label className="font-semibold" htmlFor="restore-file">
        Restore a backup into this empty shop
      </label>
      <input
        id="restore-file"
        type="file"
        className="min-h-11 max-w-full"
        disabled={restore.isPending}
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) restore.mutate(file)
          e.target.value = '' // the same file may be tried again
        }}
      />
      <p className="text-ink-2" role="status">
        {restore.isPending && 'Reading the backup, then putting it in place…'}
        {restore.error && <span className="font-semibold text-late">{restore.error.message}</span>}
      </p>
    </div>
  )
}

import { useMay } from '../../api/door'
import { useReference, useShop } from '../../api/queries'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Asking } from '../../parts/Asking'
import { LinkButton } from '../../parts/Button'
import { AboutPanel } from './AboutPanel'
import { BackupPanel } from './BackupPanel'
import { DaysPanel } from './DaysPanel'
import { DevicePanel } from './DevicePanel'
import { HoursPanel } from './HoursPanel'
import { PairingPanel } from './PairingPanel'
import { PeoplePanel } from './PeoplePanel'
import { PlacesPanel } from './PlacesPanel'
import { WaysPanel } from './WaysPanel'

/** ShopScreen is what the shop has decided about itself: every change says what it does before it is kept. */
export function ShopScreen() {
  const shop = useShop()
  const may = useMay('shop')
  const today = useReference().data?.today ?? ''
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-baseline gap-x-4 py-3">
        <ScreenTitle tab="Shop" />
        <p className="text-ink-2">
          What is changed here holds from now on; what happened keeps the settings it happened under.
        </p>
        <span className="ml-auto flex gap-3">
          <LinkButton to="/log">Log</LinkButton>
          <LinkButton to="/hours">Hours</LinkButton>
        </span>
      </header>
      {!may && (
        <p className="mb-3 border-l-4 border-waiting bg-waiting-fill px-3 py-2">
          What the shop has decided is shown here; this device may not change it.
        </p>
      )}
      <Asking query={shop}>
        {(view) => (
          <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
            <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
              <fieldset disabled={!may} className="contents">
                <HoursPanel view={view} />
                <DaysPanel view={view} today={today} />
                <PeoplePanel view={view} />
              </fieldset>
              {may && <PairingPanel />}
              {may && <BackupPanel />}
              <DevicePanel />
              <AboutPanel />
            </div>
            <fieldset disabled={!may} className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-4">
              <PlacesPanel view={view} />
              <WaysPanel view={view} />
            </fieldset>
          </div>
        )}
      </Asking>
    </div>
  )
}

package climate

import (
	"archive/zip"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// everyZone lists the time zones of Go's own database.
func everyZone(t *testing.T) []*time.Location {
	root, err := exec.Command("go", "env", "GOROOT").Output()
	require.NoError(t, err)
	database, err := zip.OpenReader(filepath.Join(strings.TrimSpace(string(root)), "lib", "time", "zoneinfo.zip"))
	require.NoError(t, err)
	defer database.Close()
	var zones []*time.Location
	for _, file := range database.File {
		if zone, err := time.LoadLocation(file.Name); err == nil && !strings.HasSuffix(file.Name, "/") {
			zones = append(zones, zone)
		}
	}
	require.Greater(t, len(zones), 400)
	return zones
}

func TestWalkingLocalHoursAdvancesInEveryZone(t *testing.T) {
	from, to := time.Date(1970, 1, 1, 0, 0, 0, 0, time.UTC), time.Date(2038, 1, 1, 0, 0, 0, 0, time.UTC)
	walked := 0
	for _, zone := range everyZone(t) {
		r := &Room{zone: zone}
		for change := from; change.Before(to); {
			_, next := change.In(zone).ZoneBounds()
			if next.IsZero() {
				break
			}
			change = next
			for at := seconds(change) - 2*3600; at < seconds(change)+2*3600; walked++ {
				next := r.nextHour(at)
				hour := time.Unix(int64(next), 0).In(zone)
				if next <= at || hour.Minute() != 0 || hour.Second() != 0 || r.hourBefore(next-1) >= next || r.hourBefore(next) != next {
					require.Fail(t, "no way on", "%s: from %s to %s", zone, time.Unix(int64(at), 0).In(zone), hour)
				}
				at = next
			}
		}
	}
	require.Greater(t, walked, 100_000)
}

// Lord Howe Island shifts its clocks by half an hour: on 5 April 2026 at 02:00 back
// to 01:30, on 4 October 2026 at 02:00 on to 02:30.
func TestClocksThatShiftByHalfAnHour(t *testing.T) {
	zone, err := time.LoadLocation("Australia/Lord_Howe")
	require.NoError(t, err)
	r := &Room{zone: zone}
	hours := func(from string, n int) []string {
		at, err := time.Parse(time.RFC3339, from)
		require.NoError(t, err)
		var list []string
		for range n {
			at = time.Unix(int64(r.nextHour(seconds(at))), 0)
			list = append(list, at.In(zone).Format("15:04 -07:00"))
		}
		return list
	}
	assert.Equal(t, []string{"01:00 +11:00", "02:00 +10:30", "03:00 +10:30"}, hours("2026-04-04T13:30:00Z", 3))
	assert.Equal(t, []string{"01:00 +10:30", "03:00 +11:00", "04:00 +11:00"}, hours("2026-10-03T14:00:00Z", 3))
	half := time.Date(2026, 10, 4, 2, 40, 0, 0, zone)
	assert.Equal(t, "01:00 +10:30", time.Unix(int64(r.hourBefore(seconds(half))), 0).In(zone).Format("15:04 -07:00"))

	room, err := NewRoom(zone, Constant(Reference), nil)
	require.NoError(t, err)
	week := room.Week(weekOf(seconds(half)))
	assert.Len(t, week, 7*24, "one hour of it takes half as long again, and the week cuts one in two")
}

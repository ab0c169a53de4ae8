package demo_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/demo"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/views"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

func TestTheRoomIsNeverEmptyOrStale(t *testing.T) {
	for name, now := range map[string]time.Time{
		"the fixed present":            demo.Fixed,
		"a Sunday night in the summer": time.Date(2027, 7, 4, 23, 40, 0, 0, time.UTC),
		"new year's day":               time.Date(2027, 1, 1, 8, 0, 0, 0, time.UTC),
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			ctx := context.Background()
			s := pgtest.Store(t)
			loaded, err := demo.Load(ctx, s, now)
			require.NoError(t, err)
			require.True(t, loaded)
			service, err := shop.New(s, func() time.Time { return now })
			require.NoError(t, err)

			rack, err := service.Rack(ctx)
			require.NoError(t, err)
			assert.GreaterOrEqual(t, len(rack.Tags), 8)
			assert.True(t, len(rack.Next) > 0 || rack.Then != nil, "there is always something to do next")
			states := map[views.State]bool{}
			for _, tag := range rack.Tags {
				states[tag.State] = true
			}
			assert.True(t, states[views.Drying], "something is drying")
			assert.True(t, states[views.Late], "one promise is in danger")

			lines, err := service.Instruments(ctx)
			require.NoError(t, err)
			stages := map[string]bool{}
			for _, line := range lines {
				stages[line.Stage] = true
				view, err := service.Instrument(ctx, line.ID)
				require.NoError(t, err)
				for _, entry := range view.Log {
					assert.False(t, entry.Happened.At.After(now), "nothing was logged in the future")
					assert.Empty(t, entry.Flags, "%s: %s", line.Name, entry.Title)
				}
			}
			assert.Len(t, lines, 16, "one for each way of finishing")
			running := 0
			for _, line := range lines {
				if !line.Outlook.Finished {
					running++
				}
			}
			assert.LessOrEqual(t, running, 7, "on the rail at once")
			looks, err := service.Looks(ctx)
			require.NoError(t, err)
			painted := map[string]bool{}
			for _, l := range looks {
				for _, look := range l.Looks {
					for _, region := range look.Regions {
						for _, paint := range region.Paints {
							painted[paint.As] = true
							assert.False(t, paint.Guessed, "%s: every colour is known", paint.Layer)
						}
					}
				}
			}
			for _, as := range []string{"even", "grain", "burst", "fade", "torn", "char", "pour", "mark"} {
				assert.True(t, painted[as], as)
			}
			assert.GreaterOrEqual(t, len(stages), 5, "instruments are at different stages")

			again, err := demo.Load(ctx, s, now)
			require.NoError(t, err)
			assert.False(t, again, "a second start keeps the data")
		})
	}
}

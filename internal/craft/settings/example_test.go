package settings_test

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/settings"
)

// What a shop has decided holds from its day on.
func Example() {
	day := func(n int) time.Time { return time.Date(2026, 3, n, 0, 0, 0, 0, time.UTC) }
	shop := settings.Shop{Settings: []settings.Setting{{ValidFrom: day(1), Margin: 1.25}, {ValidFrom: day(9), Margin: 1.5}}}
	fmt.Println(shop.Settings[shop.At(day(8))].Margin, shop.Settings[shop.At(day(9))].Margin)
	// Output:
	// 1.25 1.5
}

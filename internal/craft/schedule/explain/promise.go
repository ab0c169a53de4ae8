package explain

import (
	"fmt"
	"time"

	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/working"
)

// Slack shows how an instrument's slack came about: from its finish to the
// end of the promised day.
func Slack(p *schedule.Plan, i int) working.Working {
	in, f := &p.Input().Instruments[i], p.Forecasts[i]
	finish := working.Input{Name: "ready", Value: p.Clock(f.Finish), Source: working.Profile}
	if f.Finished {
		finish.Source = working.Person
	}
	return working.New("Slack", "end of the promised day − when the last work will be done", spanText(f.Slack),
		working.Input{Name: "promise, end of", Value: in.Promise.String(), Source: working.Person}, finish)
}

// spanText says how long something is in days and hours, late where negative.
func spanText(d time.Duration) string {
	late := ""
	if d < 0 {
		d, late = -d, " late"
	}
	hours := int(d.Hours())
	if hours < 48 {
		return fmt.Sprintf("%d h%s", hours, late)
	}
	return fmt.Sprintf("%d days %d h%s", hours/24, hours%24, late)
}

// LatestStart shows how an instrument's latest start came about.
func LatestStart(p *schedule.Plan, i int) working.Working {
	result := "is past: the promise will not be kept"
	if at := p.LatestStart(i); !at.IsZero() {
		result = p.Clock(at)
	}
	return working.New("Latest start",
		"backward from the promise along its own chain with waits, hours, air and its own hands, as if it were alone in the shop; then "+
			"planned forward from there", result,
		working.Input{Name: "promise, end of", Value: p.Input().Instruments[i].Promise.String(), Source: working.Person},
		working.Input{Name: "caution on waits", Value: fmt.Sprintf("× %g", p.Input().Shop.Margin), Source: working.Shop},
		working.Input{Name: "air", Value: "as it usually is", Source: working.Profile})
}

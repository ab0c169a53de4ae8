package changes

import "umberfrost/internal/craft/phrase"

func DaysText(days int) string {
	switch {
	case days > 0:
		return phrase.Plural(days, "day") + " later"
	case days < 0:
		return phrase.Plural(-days, "day") + " earlier"
	}
	return "the same day"
}

package calendar

import "time"

// InForce is the index of the version, of a thing that is decided anew from time to time, that holds at a moment: the
// last that is valid by then, of several from the same moment the later in the list; the first where none is valid yet.
func InForce[T any](versions []T, now time.Time, from func(T) time.Time) int {
	best := 0
	for i, v := range versions {
		if at := from(v); !at.After(now) && (from(versions[best]).After(now) || !at.Before(from(versions[best]))) {
			best = i
		}
	}
	return best
}

package changes

import (
	"maps"
	"slices"
)

// Kinds are the kinds of change that can be read.
func Kinds() []string { return slices.Collect(maps.Keys(kinds)) }

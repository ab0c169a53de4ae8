package changes

import (
	"maps"
	"slices"
)

// Kinds are the kinds of change that can be read.
func Kinds() []string { return slices.Collect(maps.Keys(kinds)) }

// EntryKinds are the kinds of entry that can be recorded.
func EntryKinds() []string { return slices.Collect(maps.Keys(entryKinds)) }

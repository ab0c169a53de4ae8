package repair

import (
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
)

// asks says what a check asks for when it is not passed, by the kinds of steps before it that are done once
// more, nearest first; absent: what stands right before it.
var asks = map[string][]job.Kind{
	"pores-filled":      {job.Sand, job.Coat}, // another filling, sanded level
	"filler-hard":       {},                   // only time
	"barrier-set":       {},
	"oil-wiped":         {job.Coat},
	"flake-buried":      {job.Coat},
	"swatch-match":      {}, // the person tries another
	"raking-light-prep": {job.Sand},
	"no-curls":          {job.Sand},
	"fuzz-cut":          {job.Sand},
	"flat-under-block":  {job.Level},
	"dull-gone":         {job.Scuff},
	"scratch-one-way":   {job.Level},
	"compound-haze":     {job.Buff},
	"dull-spots-buff":   {job.Buff},
	"sheen-zones":       {job.Buff},
	"witness-look":      {job.Level},
	"tape-pressed":      {job.MaskOn},
}

// moreTime is how much longer what is not hard yet is left, where a check asks for nothing but time (default).
const moreTime = 12 * 60

// onlyTime are the checks that ask for nothing else.
var onlyTime = []string{"filler-hard", "barrier-set"}

// Failed is an instrument after a check was not passed: what it asks for comes before it once more. The
// entry names the steps that come, so that they come once. False where it asks for nothing that a schedule has.
func Failed(in recipe.Instrument, check uuid.UUID, entry uuid.UUID, log recipe.Logged) (recipe.Instrument, []job.Step, bool) {
	for p := range in.Pieces {
		steps := in.Pieces[p].Steps
		at := slices.IndexFunc(steps, func(s job.Step) bool { return s.ID == check })
		if at < 0 {
			continue
		}
		again := asked(&in.Pieces[p], at, log)
		if len(again) == 0 {
			return in, nil, false
		}
		for n := range again {
			s := &again[n]
			base, _, _ := strings.Cut(s.Slot, recipe.HandMark)
			s.ID = askedID(entry, n)
			s.Slot = base + recipe.HandMark + "asked-" + s.ID.String()[:8]
			s.Version, s.Edited, s.Moved, s.NoReturn, s.Coats, s.Repeat = 1, true, true, false, 1, nil
			s.After, s.Within, s.Note = nil, nil, ""
		}
		next := in
		next.Pieces = slices.Clone(in.Pieces)
		next.Pieces[p].Steps = slices.Insert(slices.Clone(steps), at, again...)
		return next, again, true
	}
	return in, nil, false
}

// mostAsked is how many steps a check asks for at most.
const mostAsked = 4

func askedID(entry uuid.UUID, n int) uuid.UUID { return uuid.NewSHA1(entry, []byte{byte(n)}) }

// AskedBy are the ids of the steps that an entry of a failed check may have brought.
func AskedBy(entry uuid.UUID) []uuid.UUID {
	ids := make([]uuid.UUID, mostAsked)
	for n := range ids {
		ids[n] = askedID(entry, n)
	}
	return ids
}

// asked are the steps before a check that it asks for once more, in their order. A ladder is not gone up
// again: its last grit is.
func asked(piece *job.Piece, at int, log recipe.Logged) []job.Step {
	check := &piece.Steps[at]
	if slices.Contains(onlyTime, check.Check) {
		return []job.Step{{Slot: check.Slot, Kind: job.Gate, Title: "Give it more time", HandsOnMin: 5, RestMin: moreTime,
			Regions: piece.RegionsOf(check),
			How:     "Warm and airy, and nothing on it; then look again.", Why: "What is soft below wrinkles what comes over it."}}
	}
	kinds, known := asks[check.Check]
	if !known {
		kinds = []job.Kind{job.Sand, job.Coat, job.Scuff, job.Level, job.Buff, job.MaskOn, job.MaskOff}
	}
	shares := func(s *job.Step) bool {
		return slices.ContainsFunc(piece.RegionsOf(s), func(z uuid.UUID) bool { return slices.Contains(piece.RegionsOf(check), z) })
	}
	var list []job.Step
	for i := at - 1; i >= 0 && len(kinds) > 0; i-- {
		s := piece.Steps[i]
		k := slices.Index(kinds, s.Kind)
		if k < 0 || log.Done[s.ID] == 0 || s.Out != "" || !shares(&s) {
			continue
		}
		if n := len(s.Ladder); n > 1 {
			s.HandsOnMin, s.Ladder = max(5, s.HandsOnMin/unit.Minutes(n)), s.Ladder[n-1:]
		}
		list = slices.Insert(list, 0, s)
		if kinds = kinds[k+1:]; !known {
			break
		}
	}
	return list
}

// Package timer is the clocks of minutes that belong to a step: how long each runs, by when what follows
// must be done, and what to do when it ends. Hours and days are for the cure clocks and the planner.
package timer

import (
	"fmt"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// Kinds of timer.
const (
	FlashOff   = "flash-off"
	WipeOff    = "wipe-off"
	SelfLevel  = "self-level"
	Lamp       = "lamp"
	Tack       = "tack"
	Peel       = "peel"
	PotLife    = "pot-life"
	RubBack    = "rub-back"
	SqueezeOut = "squeeze-out"
	Etch       = "etch"
	Clamp      = "clamp"
)

// Kinds lists them.
var Kinds = []string{FlashOff, WipeOff, SelfLevel, Lamp, Tack, Peel, PotLife, RubBack, SqueezeOut, Etch, Clamp}

// Within reports whether a kind of timer runs while its work is done, and is over once that is logged.
func Within(kind string) bool { return kind == WipeOff || kind == Etch }

// Follows reports whether a kind of timer is started when its work is done.
func Follows(kind string) bool { return !Within(kind) && kind != PotLife }

// longest is what a timer counts: what takes longer is told by the rack (default).
const longest unit.Minutes = 12 * 60

// Work is a step of which the timers are wanted, and what they depend on.
type Work struct {
	Step    *schedule.Step
	Next    *schedule.Step  // what follows on its piece; nil: nothing
	PotLife unit.Minutes    // of its mix at its place; 0: it does not set
	Peel    [2]unit.Minutes // until what follows, where that takes tape off, may be done, and until it should have been; 0: it does not
}

// Of lists the timers of a step, in the order in which they are wanted. Minutes are those of its family, of
// its glue or of what follows; with pot life and peel window as the planner has worked them out.
func Of(w Work) []job.Timer {
	var list []job.Timer
	add := func(kind string, minutes, before unit.Minutes, title, then string) {
		if minutes > 0 && minutes <= longest {
			list = append(list, job.Timer{Kind: kind, Title: title, Minutes: minutes, BeforeMin: before, Then: then})
		}
	}
	if w.PotLife > 0 {
		add(PotLife, w.PotLife, 0, "Pot life since mixing", "Stop using this mix: it sets. Mix anew, clean gun and cup.")
	}
	if w.Step.Kind == job.Coat {
		family := w.Step.Material.Family
		switch {
		case family.Lamp > 0:
			add(SelfLevel, family.SelfLevel, 0, "Levels itself before the lamp", "Under the lamp now, for "+family.Lamp.String()+".")
			add(Lamp, family.Lamp, 0, "Under the lamp", "Lamp off. Look whether it is hard all over.")
		case w.Step.WipesOff():
			add(WipeOff, family.WipeAfter, family.WipeBefore, "Soaks before it is wiped off",
				fmt.Sprintf("Wipe off every trace, before %s have passed.", family.WipeBefore.String()))
		default:
			add(FlashOff, family.Flash, 0, "Flashes off", "It may be moved and hung; dust no longer sinks in.")
		}
	}
	if glue := w.Step.Glue; glue != nil {
		if glue.SqueezeBeforeMin > 0 {
			add(SqueezeOut, glue.SqueezeAfterMin, glue.SqueezeBeforeMin, "Until squeeze-out is a gel",
				fmt.Sprintf("Scrape the squeeze-out off, before %s have passed.", glue.SqueezeBeforeMin.String()))
		}
		add(Clamp, glue.ClampMin, 0, "In the clamps", "Clamps off. No load on the joint yet.")
	}
	if w.Step.Kind == job.Gate && w.Step.Check == "etch-stopped" {
		add(Etch, w.Step.HandsOnMin, 0, "Darkens", "Look at the colour; stop and rinse when it is reached.")
	}
	if next := w.Next; next != nil {
		what := phrase.Capital(next.Title)
		if next.Kind == job.Coat {
			what = next.EventTitle(1)
		}
		switch within := next.Within; {
		case within != nil && within.AfterMin > 0:
			add(Tack, within.AfterMin, within.BeforeMin, "Until it is tacky",
				fmt.Sprintf("%s, before %s have passed.", what, within.BeforeMin.String()))
		case within != nil:
			add(RubBack, within.BeforeMin, within.BeforeMin, "Before it is too late: "+phrase.Lower(next.Title),
				what+" now: later it no longer goes.")
		case next.Kind == job.MaskOff && w.Step.Kind == job.Coat && w.Peel[0] > 0:
			add(Peel, w.Peel[0], w.Peel[1], "Until the tape may come off",
				what+": dry to the touch, not yet hard. Later it tears the film.")
		}
	}
	return list
}

// Package views is what a screen reads, made of a snapshot: the rack, an instrument, a sheet, Weeks, the log. A view
// asks neither the database nor the planner for anything new.
package views

import (
	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/craft/working"
	"umberfrost/internal/shop/snapshot"
)

// State is how a piece or an instrument stands.
type State string

const (
	Ready    State = "ready"    // hands can go to work
	Drying   State = "drying"   // a film or a rest is running
	Closing  State = "closing"  // hands can go to work, and should before a window closes
	Waiting  State = "waiting"  // for the shop, another piece, another job
	Late     State = "late"     // the promise will not be kept
	Finished State = "finished" // nothing is left to do
)

// Outlook is an instrument's forecast against its promise.
type Outlook struct {
	Promise     snapshot.DayView `json:"promise"`
	Finish      *snapshot.Moment `json:"finish,omitempty" doc:"when the last work will be done; absent when it cannot be placed"`
	FinishDay   string           `json:"finishDay" doc:"Fri 27 March, or why there is none"`
	SlackDays   int              `json:"slackDays" doc:"whole local days from the finish to the promise; negative when late"`
	Slack       string           `json:"slack" doc:"4 days, none, 3 days late"`
	LatestStart *snapshot.Moment `json:"latestStart,omitempty" doc:"of what comes next, alone in the shop; absent when it is past, and in lists where it is not worked out"`
	Finished    bool             `json:"finished"`
	Late        bool             `json:"late"`
	Impossible  string           `json:"impossible,omitempty" doc:"why no finish can be forecast"`
	Because     string           `json:"because" doc:"what holds its last work"`
	Show        *ShowView        `json:"show,omitempty" doc:"whether it is fit to be shown on its day; absent where it has none"`
	Chance      *ChanceView      `json:"chance,omitempty" doc:"of keeping the promise; absent until it has been worked out"`
	// How slack and latest start came about.
	SlackWorking       *working.Working `json:"slackWorking,omitempty"`
	LatestStartWorking *working.Working `json:"latestStartWorking,omitempty"`
}

// ChanceView is how likely a promise is to be kept.
type ChanceView struct {
	Percent   int             `json:"percent"`
	NineInTen string          `json:"nineInTen" doc:"the day by which it is finished nine times in ten"`
	Working   working.Working `json:"working"`
}

// outlook is an instrument's forecast, worked out once for a moment.
func outlook(m *snapshot.Snapshot, i int) Outlook {
	return snapshot.Once(m, outlookKey(i), func() Outlook {
		o := outlookIn(m, m.Plan, i)
		o.Chance = chanceOf(m, i)
		return o
	})
}

// outlookKey is under which the outlook of an instrument is made once.
type outlookKey int

// outlookIn is the forecast of a plan's i-th instrument, without its chance.
func outlookIn(m *snapshot.Snapshot, plan *schedule.Plan, i int) Outlook {
	f, in := plan.Forecasts[i], plan.Input().Instruments[i]
	o := Outlook{Promise: snapshot.DayOf(in.Promise), Finished: f.Finished, Late: f.Late(), Impossible: f.Impossible}
	if f.Impossible != "" {
		o.FinishDay, o.Slack = "cannot be placed", "unknown"
		return o
	}
	finish := m.Moment(f.Finish)
	o.Finish = &finish
	day := calendar.DayOf(f.Finish.In(m.Plan.Zone))
	o.FinishDay = snapshot.DayOf(day).Said
	o.SlackDays = calendar.DaysBetween(day, in.Promise)
	o.Slack = slackText(o.SlackDays)
	o.Because = snapshot.LastSentence(plan, i)
	slack := explain.Slack(plan, i)
	o.SlackWorking = &slack
	if in.Show != nil {
		o.Show = showView(m, f, *in.Show)
	}
	return o
}

// ShowView is whether an instrument is fit to be shown on its day: all is done but what
// may follow it.
type ShowView struct {
	Day  snapshot.DayView `json:"day"`
	Late bool             `json:"late"`
	Text string           `json:"text" doc:"fit to be shown Thu 14 May, 2 days before"`
}

func showView(m *snapshot.Snapshot, f schedule.Forecast, day calendar.Day) *ShowView {
	ready := calendar.DayOf(f.Show.In(m.Plan.Zone))
	v := &ShowView{Day: snapshot.DayOf(day), Late: f.ShowSlack < 0, Text: "Fit to be shown " + snapshot.DayOf(ready).Said}
	switch days := calendar.DaysBetween(ready, day); {
	case v.Late:
		v.Text += ", " + phrase.Plural(max(1, -days), "day") + " after its day"
	case days == 0:
		v.Text += ", on its day"
	default:
		v.Text += ", " + phrase.Plural(days, "day") + " before its day"
	}
	return v
}

// withLatest is an outlook with its latest start, which takes longer to work out.
func withLatest(m *snapshot.Snapshot, o Outlook, i int) Outlook {
	if o.Finished || o.Impossible != "" {
		return o
	}
	latest := explain.LatestStart(m.Plan, i)
	o.LatestStartWorking = &latest
	if at := m.Plan.LatestStart(i); !at.IsZero() {
		said := m.Moment(at)
		o.LatestStart = &said
	}
	return o
}

func slackText(days int) string {
	switch {
	case days == 0:
		return "none"
	case days < 0:
		return phrase.Plural(-days, "day") + " late"
	}
	return phrase.Plural(days, "day")
}

// loggable reports whether an event can be logged now without a doubt.
func loggable(m *snapshot.Snapshot, e schedule.Planned) bool {
	return !e.Done && e.Impossible == "" && e.Startable && !e.Soonest.After(m.Now)
}

// look is what a piece looks like now: the wood, wet or dry, or its colour.
type look struct {
	Wood   string
	Colour string // #RRGGBB
}

func lookOf(m *snapshot.Snapshot, piece job.Piece) look {
	if len(piece.Regions) == 0 {
		return look{}
	}
	timber, err := wood.Find(piece.Regions[0].Wood)
	if err != nil {
		return look{Wood: piece.Regions[0].Wood, Colour: "#A89684"}
	}
	l := look{Wood: timber.Name, Colour: timber.BareColour}
	for _, step := range piece.Steps {
		if step.Family == "" || !done(m, step, 1) {
			continue
		}
		made, err := m.MaterialOf(&step)
		if err != nil {
			continue
		}
		switch {
		case made.Colour() != "":
			l.Colour = made.Colour()
		case l.Colour == timber.BareColour:
			l.Colour = timber.WetColour
		}
	}
	return l
}

func done(m *snapshot.Snapshot, step job.Step, coat int) bool {
	fact, found := m.Facts[schedule.Event{Step: step.ID, Coat: coat}]
	return found && !fact.Skipped
}

// summary says what a step works with: its product, its ladder, or nothing.
func summary(step job.Step, m *material.Material) string {
	switch {
	case m != nil && step.Method != "":
		return m.Name + ", " + snapshot.Method(step.Method)
	case len(step.Ladder) > 0:
		return snapshot.LadderText(step.Ladder)
	}
	return ""
}

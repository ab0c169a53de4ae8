package shop

import (
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/craft/working"
)

// Moment is an instant with the words people say for it.
type Moment struct {
	At   time.Time `json:"at"`
	Said string    `json:"said" doc:"as people say it, seen from the present: in 50 min, tonight 19:40, Thu 14 May"`
	Full string    `json:"full" doc:"day and time in the shop's zone"`
}

func (m *moment) moment(t time.Time) Moment {
	return Moment{At: t.UTC(), Said: m.plan.Say(t), Full: unit.DateText(t.In(m.plan.Zone), "Mon 2 January 2006, 15:04")}
}

// momentOf is when an event begins; nil when it cannot be placed.
func (m *moment) momentOf(e schedule.Planned) *Moment {
	if e.Impossible != "" {
		return nil
	}
	start := m.moment(e.Start)
	return &start
}

// DayView is a calendar day with the words for it.
type DayView struct {
	Date string `json:"date" format:"date"`
	Said string `json:"said" doc:"Tue 31 March"`
}

func dayView(d calendar.Day) DayView {
	t := time.Date(d.Year, d.Month, d.Date, 12, 0, 0, 0, time.UTC)
	return DayView{Date: d.String(), Said: unit.DateText(t, "Mon 2 January")}
}

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
	Promise     DayView     `json:"promise"`
	Finish      *Moment     `json:"finish,omitempty" doc:"when the last work will be done; absent when it cannot be placed"`
	FinishDay   string      `json:"finishDay" doc:"Fri 27 March, or why there is none"`
	SlackDays   int         `json:"slackDays" doc:"whole local days from the finish to the promise; negative when late"`
	Slack       string      `json:"slack" doc:"4 days, none, 3 days late"`
	LatestStart *Moment     `json:"latestStart,omitempty" doc:"of what comes next, alone in the shop; absent when it is past, and in lists where it is not worked out"`
	Finished    bool        `json:"finished"`
	Late        bool        `json:"late"`
	Impossible  string      `json:"impossible,omitempty" doc:"why no finish can be forecast"`
	Because     string      `json:"because" doc:"what holds its last work"`
	Show        *ShowView   `json:"show,omitempty" doc:"whether it is fit to be shown on its day; absent where it has none"`
	Chance      *ChanceView `json:"chance,omitempty" doc:"of keeping the promise; absent until it has been worked out"`
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
func (m *moment) outlook(i int) Outlook {
	return madeOnce(m, outlookKey(i), func() Outlook {
		o := m.outlookIn(m.plan, i)
		o.Chance = m.chanceOf(i)
		return o
	})
}

// outlookKey is under which the outlook of an instrument is made once.
type outlookKey int

// outlookIn is the forecast of a plan's i-th instrument, without its chance.
func (m *moment) outlookIn(plan *schedule.Plan, i int) Outlook {
	f, in := plan.Forecasts[i], plan.Input().Instruments[i]
	o := Outlook{Promise: dayView(in.Promise), Finished: f.Finished, Late: f.Late(), Impossible: f.Impossible}
	if f.Impossible != "" {
		o.FinishDay, o.Slack = "cannot be placed", "unknown"
		return o
	}
	finish := m.moment(f.Finish)
	o.Finish = &finish
	day := calendar.DayOf(f.Finish.In(m.plan.Zone))
	o.FinishDay = dayView(day).Said
	o.SlackDays = calendar.DaysBetween(day, in.Promise)
	o.Slack = slackText(o.SlackDays)
	o.Because = lastSentence(plan, i)
	slack := explain.Slack(plan, i)
	o.SlackWorking = &slack
	if in.Show != nil {
		o.Show = m.showView(f, *in.Show)
	}
	return o
}

// ShowView is whether an instrument is fit to be shown on its day: all is done but what
// may follow it.
type ShowView struct {
	Day  DayView `json:"day"`
	Late bool    `json:"late"`
	Text string  `json:"text" doc:"fit to be shown Thu 14 May, 2 days before"`
}

func (m *moment) showView(f schedule.Forecast, day calendar.Day) *ShowView {
	ready := calendar.DayOf(f.Show.In(m.plan.Zone))
	v := &ShowView{Day: dayView(day), Late: f.ShowSlack < 0, Text: "Fit to be shown " + dayView(ready).Said}
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
func (m *moment) withLatest(o Outlook, i int) Outlook {
	if o.Finished || o.Impossible != "" {
		return o
	}
	latest := explain.LatestStart(m.plan, i)
	o.LatestStartWorking = &latest
	if at := m.plan.LatestStart(i); !at.IsZero() {
		said := m.moment(at)
		o.LatestStart = &said
	}
	return o
}

// lastSentence says what holds the last work of an instrument.
func lastSentence(plan *schedule.Plan, i int) string {
	var last *schedule.Planned
	events := plan.EventsOf(i)
	for k := range events {
		if last == nil || events[k].End.After(last.End) {
			last = &events[k]
		}
	}
	if last == nil {
		return ""
	}
	return explain.Sentence(plan, last.Event)
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

// EventRef names an event: a coat of a step, counted from 1.
type EventRef struct {
	StepID uuid.UUID `json:"stepId"`
	Coat   int       `json:"coat"`
}

func ref(e schedule.Event) EventRef { return EventRef{e.Step, e.Coat} }

// loggable reports whether an event can be logged now without a doubt.
func (m *moment) loggable(e schedule.Planned) bool {
	return !e.Done && e.Impossible == "" && e.Startable && !e.Soonest.After(m.now)
}

// look is what a piece looks like now: the wood, wet or dry, or its colour.
type look struct {
	Wood   string
	Colour string // #RRGGBB
}

func (m *moment) lookOf(piece job.Piece) look {
	if len(piece.Regions) == 0 {
		return look{}
	}
	timber, err := wood.Find(piece.Regions[0].Wood)
	if err != nil {
		return look{Wood: piece.Regions[0].Wood, Colour: "#A89684"}
	}
	l := look{Wood: timber.Name, Colour: timber.BareColour}
	for _, step := range piece.Steps {
		if step.Family == "" || !m.done(step, 1) {
			continue
		}
		made, err := m.materialOf(&step)
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

func (m *moment) done(step job.Step, coat int) bool {
	fact, found := m.facts[schedule.Event{Step: step.ID, Coat: coat}]
	return found && !fact.Skipped
}

// summary says what a step works with: its product, its ladder, or nothing.
func summary(step job.Step, m *material.Material) string {
	switch {
	case m != nil && step.Method != "":
		return m.Name + ", " + method(step.Method)
	case len(step.Ladder) > 0:
		return ladderText(step.Ladder)
	}
	return ""
}

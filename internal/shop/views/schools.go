package views

import (
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// ChoiceView is a topic on which schools differ, with the way that is followed.
type ChoiceView struct {
	Topic    string          `json:"topic"`
	Piece    string          `json:"piece,omitempty" enum:"body,neck" doc:"absent: of the whole instrument"`
	Layer    string          `json:"layer,omitempty" doc:"the layer whose choice it is; absent: of the piece"`
	Question string          `json:"question"`
	Chosen   string          `json:"chosen" doc:"the option that is followed"`
	Usual    bool            `json:"usual" doc:"nobody has chosen it: the cautious way"`
	Ways     []recipe.School `json:"ways"`
}

// choices lists the topics that stand open in a wish.
func choices(wish recipe.Wish) []ChoiceView {
	list := []ChoiceView{}
	for _, c := range wish.Choices() {
		if len(c.Ways) < 2 && c.Usual {
			continue // there is nothing to choose
		}
		list = append(list, ChoiceView{Topic: c.Topic, Piece: string(c.Piece), Layer: c.Layer, Question: c.Ways[0].Question,
			Chosen: c.Chosen,
			Usual:  c.Usual, Ways: c.Ways})
	}
	return list
}

// SchoolsAsked asks what the ways of one topic would come to.
type SchoolsAsked struct {
	Instrument changes.NewInstrument `json:"instrument"`
	Topic      string                `json:"topic"`
	Piece      string                `json:"piece,omitempty" enum:"body,neck"`
	Running    bool                  `json:"running,omitempty" doc:"the instrument is kept already, and what is logged of it stays"`
}

// Ways are the schools of a topic side by side, each planned here.
type Ways struct {
	Question string    `json:"question"`
	Ways     []WayView `json:"ways"`
	Marks    []DayMark `json:"marks" doc:"the Mondays along their threads"`
}

// WayView is what one school would come to with everything else as it was chosen.
type WayView struct {
	recipe.School
	Chosen   bool        `json:"chosen"`
	Wish     recipe.Wish `json:"wish" doc:"the wish with this way chosen"`
	Refused  string      `json:"refused,omitempty" doc:"why it cannot be had with the rest of the wish"`
	Finish   string      `json:"finish"`
	Late     bool        `json:"late"`
	Days     string      `json:"days" doc:"against what is chosen: 2 days later"`
	HandsOn  string      `json:"handsOn"`
	Hands    string      `json:"hands" doc:"against what is chosen: 1 h 20 less"`
	Coats    int         `json:"coats"`
	MoreCoat int         `json:"moreCoats" doc:"against what is chosen; fewer when negative"`
	Redo     int         `json:"redo" doc:"the chance in percent that some coat has to be done again"`
	RedoSaid string      `json:"redoSaid" doc:"about 2 in 5"`
	Adds     []string    `json:"adds" doc:"steps it has that what is chosen has not"`
	Spares   []string    `json:"spares" doc:"steps that it does without"`
	Row      *WeekRow    `json:"row,omitempty" doc:"its threads"`
}

func Schools(m *snapshot.Snapshot, in SchoolsAsked) (Ways, error) {
	if !in.Running {
		in.Instrument.Wish = changes.Followed(m, in.Instrument.Wish)
	}
	all := in.Instrument.Wish.Choices()
	at := slices.IndexFunc(all, func(c recipe.Choice) bool { return c.Topic == in.Topic && string(c.Piece) == in.Piece })
	if at < 0 {
		return Ways{}, refuse.Field("topic", "this choice does not stand open with what else was chosen", in.Topic)
	}
	now, err := compareWays(m, in.Instrument, in.Running)
	if err != nil {
		return Ways{}, err
	}
	out := Ways{Question: all[at].Ways[0].Question, Ways: []WayView{}, Marks: Mondays(m)}
	for _, school := range all[at].Ways {
		view := WayView{School: school, Chosen: school.Option == all[at].Chosen, Adds: []string{}, Spares: []string{}}
		other := in.Instrument
		if !view.Chosen {
			other.Wish = other.Wish.With(in.Topic, recipe.PieceKind(in.Piece), school.Option)
		}
		view.Wish = other.Wish
		way, err := compareWays(m, other, in.Running)
		if bad, refused := err.(*refuse.Invalid); refused {
			view.Refused = bad.Faults[0].Message
			out.Ways = append(out.Ways, view)
			continue
		}
		if err != nil {
			return Ways{}, err
		}
		view.compare(now, way)
		out.Ways = append(out.Ways, view)
	}
	return out, nil
}

// weighed is a new instrument planned beside today's work, and what it takes.
type weighed struct {
	weight
	after *snapshot.Snapshot
	at    int
}

func compareWays(m *snapshot.Snapshot, in changes.NewInstrument, running bool) (weighed, error) {
	if running {
		return weighedAgain(m, in)
	}
	stored, _, err := changes.Compose(m, in, changes.Asking)
	if err != nil {
		return weighed{}, err
	}
	_, after, err := Promised(m, stored, in.Promise == "")
	if err != nil {
		return weighed{}, err
	}
	at := len(after.Instruments) - 1
	return weighed{weigh(after.Instruments[at]), after, at}, nil
}

// weighedAgain is an instrument that is kept, composed again.
func weighedAgain(m *snapshot.Snapshot, in changes.NewInstrument) (weighed, error) {
	b, err := changes.NewSet(m, []changes.Change{{Kind: "wish", InstrumentID: in.ID, Wish: &in.Wish}}, uuid.Nil)
	if err != nil {
		return weighed{}, err
	}
	answer, err := b.Answer()
	if err != nil {
		return weighed{}, err
	}
	after, err := result(b, answer)
	if err != nil {
		return weighed{}, err
	}
	at := slices.IndexFunc(b.Workshop.Instruments, func(i recipe.Instrument) bool { return i.ID == in.ID })
	return weighed{weigh(after.Instruments[at]), after, at}, nil
}

func (w weighed) forecast() schedule.Forecast { return w.after.Plan.Forecasts[w.at] }

func (v *WayView) compare(now, way weighed) {
	m, f := way.after, way.forecast()
	v.Finish, v.Late = changes.FinishText(m, f), f.Late()
	v.HandsOn, v.Coats, v.Redo, v.RedoSaid = way.minutes.String(), way.coats, way.redo(), way.redoText()
	v.MoreCoat = way.coats - now.coats
	row := weekRow(m, m.Plan, &m.Workshop.Instruments[way.at], way.at, calendar.Span{Start: m.Now.AddDate(0, 0, -1),
		End: m.Now.AddDate(0, 0, 12*7)})
	v.Row = &row
	if was := now.forecast(); f.Impossible == "" && was.Impossible == "" {
		v.Days = changes.DaysText(calendar.DaysBetween(calendar.DayOf(was.Finish.In(m.Plan.Zone)),
			calendar.DayOf(f.Finish.In(m.Plan.Zone))))
	}
	switch more := way.minutes - now.minutes; {
	case more > 0:
		v.Hands = more.String() + " more"
	case more < 0:
		v.Hands = (-more).String() + " less"
	}
	v.Adds, v.Spares = differing(way, now), differing(now, way)
}

// differing lists the steps that one schedule has and the other has not.
func differing(with, without weighed) []string {
	there := make(map[string]bool)
	for _, p := range without.after.Workshop.Instruments[without.at].Pieces {
		for _, s := range p.Steps {
			there[s.Slot] = true
		}
	}
	list := []string{}
	for _, p := range with.after.Workshop.Instruments[with.at].Pieces {
		for _, s := range p.Steps {
			if !there[s.Slot] && !slices.Contains(list, s.Title) {
				list = append(list, s.Title)
			}
		}
	}
	const most = 6
	if len(list) > most {
		list = append(list[:most:most], fmt.Sprintf("and %d more", len(list)-most))
	}
	return list
}

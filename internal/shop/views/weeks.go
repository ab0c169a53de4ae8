package views

import (
	"fmt"
	"slices"
	"sort"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/schedule/search"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// Weeks is the shop's threads through some weeks, under what its days hold.
type Weeks struct {
	From   string          `json:"from" format:"date" doc:"its first day, a Monday where none was asked for"`
	To     string          `json:"to" format:"date" doc:"the day after its last"`
	Now    snapshot.Moment `json:"now"`
	Days   []WeekDay       `json:"days"`
	Hands  string          `json:"hands" doc:"whose: 2 people"`
	Total  int             `json:"total" doc:"instruments in all"`
	Rows   []WeekRow       `json:"rows" doc:"the nearest promise first, those asked for"`
	Loads  []PlaceHead     `json:"loads" doc:"places that take only so many pieces at a time, as in each day"`
	Better *ProposalLine   `json:"better,omitempty" doc:"a better order of work, when a promise slips without it"`
}

// PlaceHead names a place.
type PlaceHead struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name"`
}

// WeekDay is one day and what it holds.
type WeekDay struct {
	DayMark
	Special bool      `json:"special" doc:"the shop's hours differ from that weekday's"`
	Hours   string    `json:"hours" doc:"09:00–12:30, 13:30–17:30, or closed"`
	Hands   DayLoad   `json:"hands"`
	Places  []DayLoad `json:"places"`
}

// DayLoad is how much of a day's time is taken.
type DayLoad struct {
	Open    bool   `json:"open"`
	Minutes int    `json:"minutes"`
	Of      int    `json:"of"`
	Text    string `json:"text" doc:"3 h 20 of 7 h"`
}

// WeekRow is one instrument with its threads.
type WeekRow struct {
	InstrumentID uuid.UUID     `json:"instrumentId"`
	Name         string        `json:"name"`
	Outlook      Outlook       `json:"outlook"`
	Pieces       []Strand      `json:"pieces"`
	Critical     *CriticalView `json:"critical,omitempty"`
}

// Strand is a piece's thread within some weeks.
type Strand struct {
	PieceID uuid.UUID     `json:"pieceId"`
	Kind    job.PieceKind `json:"kind" enum:"body,neck,cavity,fretboard,frets,hardware,plastics,fittings,whole"`
	From    *time.Time    `json:"from,omitempty" doc:"its first work, at any time"`
	To      *time.Time    `json:"to,omitempty" doc:"its last"`
	Beads   []Bead        `json:"beads" doc:"those within the weeks"`
	Frost   *Interval     `json:"frost,omitempty" doc:"the wait that is running now"`
}

// CriticalView is the longest wait on the way to an instrument's finish.
type CriticalView struct {
	PieceID uuid.UUID `json:"pieceId"`
	From    time.Time `json:"from"`
	To      time.Time `json:"to"`
	Text    string    `json:"text" doc:"how long, and what for"`
}

// WeeksAsked says which weeks and which instruments.
type WeeksAsked struct {
	From  string
	Weeks int
	First int
	Count int
}

func WeeksOf(m *snapshot.Snapshot, first calendar.Day, asked WeeksAsked) Weeks {
	last := first.AddDays(asked.Weeks * 7)
	view := Weeks{From: first.String(), To: last.String(), Now: m.Moment(m.Now), Days: weekDays(m, first, asked.Weeks*7), Rows: []WeekRow{},
		Loads: []PlaceHead{},
		Hands: phrase.Plural(len(m.Input.Shop.People), "person")}
	if len(m.Input.Shop.People) > 1 {
		view.Hands = fmt.Sprintf("%d people", len(m.Input.Shop.People))
	}
	for _, p := range m.Input.Shop.Places {
		if p.Capacity > 0 {
			view.Loads = append(view.Loads, PlaceHead{p.ID, p.Name})
		}
	}
	running := running(m)
	view.Total = len(running)
	between := calendar.Span{Start: first.At(0, m.Plan.Zone), End: last.At(0, m.Plan.Zone)}
	for at := max(0, asked.First); at < min(len(running), asked.First+asked.Count); at++ {
		view.Rows = append(view.Rows, weekRow(m, m.Plan, &m.Workshop.Instruments[running[at]], running[at], between))
	}
	return view
}

// running is the instruments that are not finished, the nearest promise first.
func running(m *snapshot.Snapshot) []int {
	var list []int
	for i := range m.Workshop.Instruments {
		if !m.Plan.Forecasts[i].Finished {
			list = append(list, i)
		}
	}
	sort.SliceStable(list, func(a, b int) bool {
		return m.Workshop.Instruments[list[a]].Promise.Compare(m.Workshop.Instruments[list[b]].Promise) < 0
	})
	return list
}

func weekDays(m *snapshot.Snapshot, first calendar.Day, count int) []WeekDay {
	days := make([]WeekDay, count)
	for n, b := range m.Plan.Utilizations(first, count) {
		at := b.Day.At(0, m.Plan.Zone)
		hours, special := m.Setting.Exceptions[b.Day.String()]
		if !special {
			hours = m.Setting.Week[b.Day.Weekday()]
		}
		days[n] = WeekDay{
			DayMark: DayMark{Date: b.Day.String(), Label: at.Format("Mon 2"), Month: at.Format("January"), At: at.UTC(), Open: b.Open,
				Work: int(b.Hands.Minutes), Week: b.Day.Weekday() == time.Monday},
			Special: special, Hours: calendar.HoursText(hours), Hands: dayLoad(b.Open, b.Hands), Places: []DayLoad{},
		}
		for _, p := range b.Places {
			days[n].Places = append(days[n].Places, dayLoad(p.Open, p.Taken))
		}
	}
	return days
}

func dayLoad(open bool, t schedule.Taken) DayLoad {
	load := DayLoad{Open: open, Minutes: int(t.Minutes), Of: int(t.Of)}
	switch {
	case t.Minutes == 0 && !open:
		load.Text = "closed"
	case t.Minutes == 0:
		load.Text = "nothing of " + t.Of.String()
	default:
		load.Text = t.Minutes.String() + " of " + unit.Minutes(t.Of).String()
	}
	return load
}

// weekRow is an instrument, the i-th of a plan, as that has it within a stretch of time.
func weekRow(m *snapshot.Snapshot, plan *schedule.Plan, in *recipe.Instrument, i int, between calendar.Span) WeekRow {
	row := WeekRow{InstrumentID: in.ID, Name: in.Name, Pieces: []Strand{}}
	if row.Outlook = outlook(m, i); plan != m.Plan {
		row.Outlook = outlookIn(m, plan, i)
	}
	for _, piece := range in.Pieces {
		strand := Strand{PieceID: piece.ID, Kind: piece.Kind, Beads: []Bead{}}
		for _, e := range plan.EventsOf(i) {
			if e.Piece != piece.ID || e.Impossible != "" {
				continue
			}
			if strand.From == nil {
				strand.From = new(e.Start.UTC())
			}
			strand.To = new(e.End.UTC())
			if e.End.After(between.Start) && e.Start.Before(between.End) {
				strand.Beads = append(strand.Beads, beadIn(m, plan, e))
			}
		}
		if next := nextOf(m, piece); next != nil && plan == m.Plan && stateOf(m, *next) == Drying {
			strand.Frost = &Interval{next.Since.UTC(), next.Ready.UTC()}
		}
		row.Pieces = append(row.Pieces, strand)
	}
	row.Critical = critical(m, plan, i)
	return row
}

func critical(m *snapshot.Snapshot, plan *schedule.Plan, i int) *CriticalView {
	wait, waits := explain.Critical(plan, i)
	if !waits {
		return nil
	}
	e, _ := plan.Find(wait.Event)
	return &CriticalView{PieceID: e.Piece, From: wait.From.UTC(), To: wait.To.UTC(),
		Text: fmt.Sprintf("The longest wait: %s. %s", spanWords(wait.To.Sub(wait.From)), wait.Reason)}
}

// spanWords says how long something is: 50 min, 7 h, 3 days.
func spanWords(d time.Duration) string {
	switch {
	case d < time.Hour:
		return fmt.Sprintf("%d min", int(d.Minutes()))
	case d < 48*time.Hour:
		return fmt.Sprintf("%d h", int(d.Hours()))
	}
	return phrase.Plural(int(d.Hours()/24), "day")
}

// Pair is an instrument's threads before and after.
type Pair struct {
	Before WeekRow `json:"before"`
	After  WeekRow `json:"after"`
}

// Pairs draws what differs between two plans: from now until four weeks after, or
// as far as the last finish that moves, twelve weeks at most.
func Pairs(m *snapshot.Snapshot, answer search.Answer) []Pair {
	const most = 12
	list := []Pair{}
	between := calendar.Span{Start: m.Now.AddDate(0, 0, -1), End: m.Now.AddDate(0, 0, 12*7)}
	differs := make(map[uuid.UUID]int)
	for _, d := range answer.Differences {
		differs[d.Instrument] = max(1, max(d.Days, -d.Days)*100+d.Moved)
	}
	var chosen []int
	for i := range m.Workshop.Instruments {
		if differs[m.Workshop.Instruments[i].ID] > 0 {
			chosen = append(chosen, i)
		}
	}
	sort.SliceStable(chosen, func(a, b int) bool {
		return differs[m.Workshop.Instruments[chosen[a]].ID] > differs[m.Workshop.Instruments[chosen[b]].ID]
	})
	for _, i := range chosen[:min(most, len(chosen))] {
		in := &m.Workshop.Instruments[i]
		after := slices.IndexFunc(answer.After.Forecasts, func(f schedule.Forecast) bool { return f.Instrument == in.ID })
		list = append(list, Pair{weekRow(m, m.Plan, in, i, between), weekRow(m, answer.After, in, after, between)})
	}
	return list
}

// Mondays marks the weeks of threads that are compared.
func Mondays(m *snapshot.Snapshot) []DayMark {
	marks := []DayMark{}
	day := calendar.DayOf(m.Now.In(m.Plan.Zone))
	for d := range 12 * 7 {
		at := day.AddDays(d).At(0, m.Plan.Zone)
		if at.Weekday() == time.Monday {
			marks = append(marks, DayMark{Date: day.AddDays(d).String(), Label: unit.DateText(at, "2 Jan"), Month: at.Format("January"),
				At: at.UTC(), Open: len(m.Calendar.OpenOn(day.AddDays(d))) > 0, Week: true})
		}
	}
	return marks
}

// StartsView is where a sitting may be put by hand, and why not elsewhere.
type StartsView struct {
	Event     changes.EventRef `json:"event"`
	Title     string           `json:"title"`
	Name      string           `json:"name"`
	Piece     job.PieceKind    `json:"piece"`
	Minutes   string           `json:"minutes"`
	Start     *snapshot.Moment `json:"start,omitempty" doc:"where it is planned; absent when it cannot be placed"`
	Pinned    bool             `json:"pinned"`
	Stretches []StretchView    `json:"stretches" doc:"from now on, without a gap; none for what is done"`
}

// StretchView is moments at which a sitting may begin, or may not.
type StretchView struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
	Free bool      `json:"free"`
	Why  string    `json:"why,omitempty"`
}

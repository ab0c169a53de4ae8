package views

import (
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// InstrumentView is one job with its threads, steps and log.
type InstrumentView struct {
	ID      uuid.UUID         `json:"id"`
	Name    string            `json:"name"`
	Version int               `json:"version" doc:"counts how often it was wished otherwise"`
	Own     *OwnOutline       `json:"own,omitempty" doc:"an outline of its own"`
	Outline string            `json:"outline" enum:"two-horned,one-horned,slab,offset,angular,bass"`
	Serial  string            `json:"serial,omitempty"`
	Show    *snapshot.DayView `json:"show,omitempty" doc:"an earlier day on which it must be fit to be shown"`
	Wish    *recipe.Wish      `json:"wish,omitempty" doc:"what is wanted of it; absent where that is not known"`
	Outlook Outlook           `json:"outlook"`
	Now     snapshot.Moment   `json:"now"`
	Days    []DayMark         `json:"days" doc:"the days its threads run through"`
	Pieces  []PieceView       `json:"pieces"`
	Next    *changes.EventRef `json:"next,omitempty" doc:"what hands do next on it"`
	Log     []LogLine         `json:"log" doc:"the newest 60 entries, newest first"`
	MoreLog bool              `json:"moreLog" doc:"the log goes on behind its last line"`

	Archived *snapshot.Moment `json:"archived,omitempty" doc:"since when it is put aside; its dates are as if it were brought back"`
	// The two below say why the date is where it is.
	Critical   *CriticalView   `json:"critical,omitempty" doc:"the longest wait on the way to its finish"`
	History    []PromiseMove   `json:"history" doc:"what moved its finish, newest first"`
	Objections []ObjectionView `json:"objections" doc:"what its schedule gets wrong"`
	Undo       *EditView       `json:"undo,omitempty" doc:"the change of its schedule that can be taken back; absent: none of the last day"`
	Redo       *EditView       `json:"redo,omitempty" doc:"the one that was taken back and can be made again"`
}

// DayMark is one day along the threads.
type DayMark struct {
	Date  string    `json:"date" format:"date"`
	Label string    `json:"label" doc:"Tue 3"`
	Month string    `json:"month" doc:"March"`
	At    time.Time `json:"at" doc:"its local midnight"`
	Open  bool      `json:"open"`
	Work  int       `json:"work" doc:"minutes of work on this instrument, done and planned"`
	Week  bool      `json:"week" doc:"a week begins"`
}

// PieceView is one piece with its thread and its steps.
type PieceView struct {
	ID      uuid.UUID     `json:"id"`
	Kind    job.PieceKind `json:"kind" enum:"body,neck,cavity,fretboard,frets,hardware,plastics,fittings,whole"`
	About   string        `json:"about" doc:"its wood, or what it joins"`
	Recipe  string        `json:"recipe"`
	Size    string        `json:"size" doc:"as it was entered"`
	Colour  string        `json:"colour"`
	Regions []RegionView  `json:"regions"`
	Beads   []Bead        `json:"beads"`
	Steps   []StepRow     `json:"steps"`
	Frost   *Interval     `json:"frost,omitempty" doc:"the wait that is running now"`
}

// RegionView is a part of a piece's surface.
type RegionView struct {
	ID    uuid.UUID `json:"id"`
	Name  string    `json:"name"`
	Wood  string    `json:"wood"`
	Area  string    `json:"area"`
	Sheen string    `json:"sheen,omitempty" doc:"what it is to end with"`
}

// Interval is a stretch of time.
type Interval struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// Bead is one event on a thread.
type Bead struct {
	Event   changes.EventRef `json:"event"`
	Kind    string           `json:"kind" enum:"sand,coat,scuff,mask-on,mask-off,level,buff,inspect,gate"`
	Method  material.Method  `json:"method"`
	Title   string           `json:"title"`
	When    string           `json:"when"`
	Start   time.Time        `json:"start"`
	End     time.Time        `json:"end"`
	Minutes int              `json:"minutes"`
	Done    bool             `json:"done"`
	Skipped bool             `json:"skipped"`
	Pinned  bool             `json:"pinned" doc:"somebody fixed it to a time"`
	Floats  bool             `json:"floats" doc:"it was pinned to a time that has become impossible"`
	State   State            `json:"state" enum:"ready,drying,closing,waiting,late,finished"`
}

// StepRow is one line of the step list.
type StepRow struct {
	StepID   uuid.UUID        `json:"stepId"`
	Title    string           `json:"title"`
	Kind     string           `json:"kind" enum:"sand,coat,scuff,mask-on,mask-off,level,buff,inspect,gate"`
	Method   material.Method  `json:"method"`
	About    string           `json:"about" doc:"product and method, the ladder, or how it is masked"`
	Where    string           `json:"where,omitempty" doc:"its regions, where it is not done to all of its piece"`
	Minutes  string           `json:"minutes" doc:"hands-on time of one coat"`
	Wait     string           `json:"wait,omitempty" doc:"what of its own the next coat waits for; absent where it may follow right after"`
	Coats    int              `json:"coats"`
	Done     int              `json:"done" doc:"coats done or left out"`
	NextCoat int              `json:"nextCoat" doc:"the coat that is next, or the last when all are done"`
	When     string           `json:"when"`
	Start    *snapshot.Moment `json:"start,omitempty" doc:"of the next coat; absent when it cannot be placed"`
	State    State            `json:"state" enum:"ready,drying,closing,waiting,late,finished"`
	Group    string           `json:"group" doc:"of a coat's material: colour, fill, seal, clear, oil-wax or other"`
	NoReturn bool             `json:"noReturn" doc:"after it colour can no longer be corrected"`
	Out      string           `json:"out,omitempty" doc:"why it is left out as a whole; absent: it is not"`
	ByHand   bool             `json:"byHand" doc:"a hand has changed, moved or added it"`
	Fields   StepFields       `json:"fields" doc:"what may be changed of it by hand"`
}

// ErrAside says that an instrument is not planned: it is put aside.
var ErrAside = errors.New("put aside")

// Page is an instrument as its page shows it, but for what the database has: made when it is first asked for.
func Page(m *snapshot.Snapshot, i int) InstrumentView {
	return snapshot.Once(m, pageKey(i), func() InstrumentView {
		view := instrument(m, i)
		view.Objections = objections(m, i)
		return view
	})
}

// pageKey is under which the page of an instrument is made once.
type pageKey int

func instrument(m *snapshot.Snapshot, i int) InstrumentView {
	in := m.Workshop.Instruments[i]
	view := InstrumentView{ID: in.ID, Name: in.Name, Outline: in.Outline, Own: OutlineOf(in.Own), Version: in.Version,
		Outlook: withLatest(m, outlook(m, i), i),
		Now:     m.Moment(m.Now), Log: []LogLine{}, Pieces: []PieceView{}, History: []PromiseMove{},
		Objections: []ObjectionView{}, Serial: in.Serial}
	if in.Wish != nil {
		wish := in.Wish.Clone()
		view.Wish = &wish
	}
	if in.Show != nil {
		show := snapshot.DayOf(*in.Show)
		view.Show = &show
	}
	var next *schedule.Planned
	for _, piece := range in.Pieces {
		view.Pieces = append(view.Pieces, pieceView(m, in, piece))
		if e := nextOf(m, piece); e != nil && e.Impossible == "" && (next == nil || e.Start.Before(next.Start)) {
			next = e
		}
	}
	if next != nil {
		event := changes.Ref(next.Event)
		view.Next = &event
	}
	view.Days, view.Critical = days(m, in, view.Pieces), critical(m, m.Plan, i)
	return view
}

func pieceView(m *snapshot.Snapshot, in recipe.Instrument, piece job.Piece) PieceView {
	l := lookOf(m, piece)
	view := PieceView{ID: piece.ID, Kind: piece.Kind, About: l.Wood, Colour: colourOf(m, in, piece), Size: sizeText(piece),
		Regions: []RegionView{}, Beads: []Bead{}, Steps: []StepRow{}}
	view.About = aboutOf(m, in, piece, l.Wood)
	if in.Wish != nil {
		view.Recipe = in.Wish.Text(piece.Kind)
	}
	for _, region := range piece.Regions {
		z := RegionView{ID: region.ID, Name: region.Name, Wood: region.Wood, Area: region.AreaM2.String(), Sheen: region.Sheen}
		if timber, err := wood.Find(region.Wood); err == nil {
			z.Wood = timber.Name
		}
		view.Regions = append(view.Regions, z)
	}
	for _, step := range piece.Steps {
		row := row(m, step)
		view.Steps = append(view.Steps, row)
		for coat := 1; coat <= step.Coats; coat++ { // of one that is left out the plan has what was done before
			if e, found := m.Plan.Find(schedule.Event{Step: step.ID, Coat: coat}); found && e.Impossible == "" {
				view.Beads = append(view.Beads, beadIn(m, m.Plan, e))
			}
		}
	}
	if e := nextOf(m, piece); e != nil && stateOf(m, *e) == Drying {
		view.Frost = &Interval{e.Since.UTC(), e.Ready.UTC()}
	}
	return view
}

// aboutOf says what a piece is made of: a body by its body wood, whatever its top is,
// frets by their metal.
func aboutOf(m *snapshot.Snapshot, in recipe.Instrument, piece job.Piece, uppermost string) string {
	switch piece.Kind {
	case recipe.Whole:
		return "body and neck together"
	case recipe.Frets:
		wire := recipe.FretWires[0]
		if in.Wish != nil {
			wire = in.Wish.Complete().FretWire
		}
		return recipe.FretWireTexts[wire]
	}
	if in.Wish != nil {
		for _, p := range in.Wish.Pieces {
			if timber, err := wood.Find(p.Wood); err == nil && p.Kind == piece.Kind {
				return timber.Name
			}
		}
	}
	return uppermost
}

func sizeText(piece job.Piece) string {
	var parts []string
	for _, size := range []*job.Size{piece.Length, piece.Width, piece.Thickness} {
		if size != nil {
			parts = append(parts, size.Entered)
		}
	}
	return strings.Join(parts, " × ")
}

func row(m *snapshot.Snapshot, step job.Step) StepRow {
	at, _ := m.Find(step.ID)
	planned := at.Planned()
	row := StepRow{StepID: step.ID, Title: step.Title, Kind: string(step.Kind), Method: step.Method, About: summary(step, planned.Material),
		Coats: step.Coats, NoReturn: step.NoReturn, State: Finished, Where: at.Where(), Minutes: step.HandsOnMin.String(), Out: step.Out,
		ByHand: step.Edited, Fields: fieldsOf(m, at)}
	if step.Out != "" {
		row.When, row.NextCoat = "left out", 1
		return row
	}
	if step.Kind == job.MaskOn {
		row.About = step.How
	}
	if planned.Material != nil {
		row.Group = planned.Material.Family.Group
	}
	for coat := 1; coat <= step.Coats; coat++ {
		e, _ := m.Plan.Find(schedule.Event{Step: step.ID, Coat: coat})
		if e.Done {
			row.Done++
		}
		if row.NextCoat == 0 && (!e.Done || coat == step.Coats) {
			row.NextCoat, row.When, row.Start = coat, m.Plan.Say(e.Start), m.MomentOf(e)
			switch {
			case e.Skipped:
				row.When = "left out"
			case e.Impossible != "":
				row.State, row.When = Late, "cannot be placed"
			case e.Done:
				row.When = m.Plan.Say(e.End)
			default:
				row.State, row.Wait = stateOf(m, e), explain.Wait(m.Plan, e.Event)
			}
		}
	}
	return row
}

// beadIn is an event as a plan has it.
func beadIn(m *snapshot.Snapshot, plan *schedule.Plan, e schedule.Planned) Bead {
	step := plan.Step(e.Event)
	b := Bead{Event: changes.Ref(e.Event), Kind: string(step.Kind), Method: step.Method, Title: step.EventTitle(e.Coat),
		When:  plan.Say(e.Start),
		Start: e.Start.UTC(), End: e.End.UTC(), Minutes: int(step.HandsOnMin), Done: e.Done, Skipped: e.Skipped, Pinned: e.Pinned,
		Floats: e.Floats, State: Finished}
	if !e.Done {
		b.State = stateOf(m, e)
	}
	return b
}

// days lists the days from the first work to the promise or the finish,
// whichever is later.
func days(m *snapshot.Snapshot, in recipe.Instrument, pieces []PieceView) []DayMark {
	zone := m.Plan.Zone
	first, last := calendar.DayOf(m.Now.In(zone)), in.Promise
	work := make(map[calendar.Day]int)
	for _, piece := range pieces {
		for _, bead := range piece.Beads {
			start, end := calendar.DayOf(bead.Start.In(zone)), calendar.DayOf(bead.End.In(zone))
			if start.Compare(first) < 0 {
				first = start
			}
			if last.Compare(end) < 0 {
				last = end
			}
			work[start] += bead.Minutes
		}
	}
	const most = 400
	marks := []DayMark{}
	for day := first; day.Compare(last) <= 0 && len(marks) < most; day = day.AddDays(1) {
		at := day.At(0, zone)
		marks = append(marks, DayMark{
			Date: day.String(), Label: at.Format("Mon 2"), Month: at.Format("January"), At: at.UTC(),
			Open: len(m.Calendar.OpenOn(day)) > 0, Work: work[day], Week: day.Weekday() == time.Monday,
		})
	}
	return marks
}

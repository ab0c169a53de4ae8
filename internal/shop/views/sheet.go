package views

import (
	"fmt"
	"math"

	"github.com/google/uuid"

	"umberfrost/internal/craft/caution"
	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/film"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/timer"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
	"umberfrost/internal/craft/working"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Sheet is all a finisher needs for one event: what to do, why, with what, when
// and because of what, what to look for and what to beware of.
type Sheet struct {
	Event        changes.EventRef   `json:"event"`
	InstrumentID uuid.UUID          `json:"instrumentId"`
	Name         string             `json:"name"`
	Piece        job.PieceKind      `json:"piece"`
	Kind         string             `json:"kind" enum:"sand,coat,scuff,mask-on,mask-off,level,buff,inspect,gate"`
	Family       string             `json:"family,omitempty" doc:"of a coat"`
	Title        string             `json:"title"`
	State        State              `json:"state" enum:"ready,drying,closing,waiting,late,finished"`
	When         string             `json:"when"`
	Start        *snapshot.Moment   `json:"start,omitempty" doc:"absent when it cannot be placed"`
	Because      string             `json:"because"`
	Wait         *working.Working   `json:"wait,omitempty" doc:"how the wait that held it came about"`
	Where        string             `json:"where" doc:"the place it is done at"`
	Window       string             `json:"window,omitempty" doc:"until when it should be done, and what happens then"`
	Room         *RoomVerdict       `json:"room,omitempty" doc:"whether the air there is fit for it now"`
	How          string             `json:"how"`
	Why          string             `json:"why"`
	NoReturn     bool               `json:"noReturn"`
	Lines        []SheetLine        `json:"lines" doc:"what to lay out, and what it gives"`
	Over         []changes.OverView `json:"over" doc:"what is known of this coat over what lies below it"`
	School       *recipe.School     `json:"school,omitempty" doc:"the way that is followed here, where schools differ"`
	Check        *CheckView         `json:"check,omitempty"`
	Then         string             `json:"then" doc:"what follows on this piece"`
	Cautions     []caution.Caution  `json:"cautions"`
	CanLog       bool               `json:"canLog" doc:"it can be logged now without a doubt"`
	LogLabel     string             `json:"logLabel"`
	Done         bool               `json:"done"`
	Behind       int                `json:"behind" doc:"how many events come before it and are not done"`
	Timers       []job.Timer        `json:"timers" doc:"clocks of minutes that belong to it"`
	Test         *TestView          `json:"test,omitempty" doc:"the film that it waits for, or that it is itself, can be tested"`
	Rounds       int                `json:"rounds,omitempty" doc:"so many rounds are done, and that may be enough; absent: not yet, or not done in rounds"`
}

// TestView is a film that can be tested for the milestone that is waited for.
type TestView struct {
	Event     changes.EventRef   `json:"event" doc:"the coat"`
	Title     string             `json:"title"`
	Milestone material.Milestone `json:"milestone" enum:"touch-dry,recoat,sand,topcoat,handle,buff,full-cure"`
	Text      string             `json:"text" doc:"may be sanded"`
	Ways      []recipe.Option    `json:"ways" doc:"how it is tested"`
}

// SheetLine is one labelled fact, with its working where it was computed.
type SheetLine struct {
	Label   string           `json:"label"`
	Text    string           `json:"text"`
	Figure  string           `json:"figure,omitempty" doc:"the computed part, to underline"`
	Working *working.Working `json:"working,omitempty"`
}

// CheckView is a check as it is shown beside a step.
type CheckView struct {
	check.Check
	Otherwise string `json:"otherwise"`
}

func SheetOf(m *snapshot.Snapshot, stepID uuid.UUID, coat int) (Sheet, error) {
	at, found := m.Find(stepID)
	if !found {
		return Sheet{}, refuse.Missing("step", stepID)
	}
	e, found := m.Plan.Find(schedule.Event{Step: stepID, Coat: coat})
	if !found && at.Step().Out != "" {
		return leftOutSheet(at), nil
	}
	if !found {
		return Sheet{}, refuse.Missing(fmt.Sprintf("coat %d of step", coat), stepID)
	}
	step, planned := at.Step(), at.Planned()
	sheet := Sheet{
		Event: changes.Ref(e.Event), InstrumentID: at.Instrument().ID, Name: at.Instrument().Name, Piece: at.Piece().Kind,
		Kind:   string(step.Kind),
		Family: step.Family, Title: planned.EventTitle(coat), State: Finished, When: m.Plan.Say(e.Start), Start: m.MomentOf(e),
		Because: explain.Sentence(m.Plan, e.Event),
		How:     step.How, Why: step.Why, NoReturn: step.NoReturn, Lines: sheetLines(m, at, e.Event), Then: then(m, e.Event),
		Over: changes.Over(m, at), Cautions: cautions(m, at), CanLog: loggable(m, e), LogLabel: logLabel(planned, coat), Done: e.Done,
		Timers: timersOf(m, at, e), Test: testOf(m, e), Rounds: roundsOf(m, at, coat),
	}
	sheet.Where, sheet.Window = m.PlaceName(e.Place), windowText(m, e)
	if !e.Done {
		sheet.State, sheet.Behind = stateOf(m, e), len(changes.OpenBefore(m, e.Event))
		if place := m.Input.Shop.PlaceOf(&planned); planned.Material != nil && place.Room != nil {
			verdict := verdict(m, *planned.Material, place, planned.HandsOnMin)
			sheet.Room = &verdict
		}
	}
	if e.Impossible != "" {
		sheet.When = "cannot be placed"
	}
	if shown, held := explain.Working(m.Plan, e.Event); held {
		sheet.Wait = &shown
	}
	if school, err := recipe.FindSchool(step.School); err == nil {
		sheet.School = &school
	}
	if step.Check != "" {
		if c, err := check.Find(step.Check); err == nil {
			sheet.Check = &CheckView{c, c.Otherwise()}
		}
	}
	return sheet, nil
}

// timersOf are the clocks of minutes that belong to an event.
func timersOf(m *snapshot.Snapshot, at snapshot.Located, e schedule.Planned) []job.Timer {
	planned := at.Planned()
	w := timer.Work{Step: &planned}
	if planned.Kind == schedule.Coat {
		w.PotLife, _ = m.Input.Shop.PotLifeOf(&planned)
	}
	if next, found := after(m, e); found {
		follows, _ := m.Find(next.Step)
		step := follows.Planned()
		w.Next = &step
		if step.Kind == schedule.MaskOff && next.Ready.After(m.Now) {
			w.Peel[0] = unit.Minutes(math.Ceil(next.Ready.Sub(m.Now).Minutes()))
			if next.Window.Latest.After(next.Ready) {
				w.Peel[1] = unit.Minutes(next.Window.Latest.Sub(m.Now).Minutes())
			}
		}
	}
	if list := timer.Of(w); list != nil {
		return list
	}
	return []job.Timer{}
}

// after is the event that comes next on the piece of an event.
func after(m *snapshot.Snapshot, e schedule.Planned) (schedule.Planned, bool) {
	found := false
	for _, other := range m.Plan.Events {
		if other.Piece != e.Piece {
			continue
		}
		if found {
			return other, true
		}
		found = other.Event == e.Event
	}
	return schedule.Planned{}, false
}

// testOf is the film that an event waits for, or that it is itself while something waits for it.
func testOf(m *snapshot.Snapshot, e schedule.Planned) *TestView {
	waiting := e
	if e.Done {
		next, found := after(m, e)
		for found && next.Done {
			next, found = after(m, next)
		}
		if !found || next.Held.Event != e.Event {
			return nil
		}
		waiting = next
	}
	if waiting.Held.Cause != schedule.Cure || waiting.Impossible != "" {
		return nil
	}
	coat, found := m.Plan.Find(waiting.Held.Event)
	if !found || !coat.Done || coat.Skipped || !waiting.Held.Until.After(m.Now) {
		return nil
	}
	at, _ := m.Find(coat.Step)
	view := &TestView{Event: changes.Ref(coat.Event), Title: at.Planned().EventTitle(coat.Coat), Milestone: waiting.Held.Wait.Milestone,
		Text: waiting.Held.Wait.Milestone.Text(), Ways: []recipe.Option{}}
	for _, way := range job.TestMethods {
		view.Ways = append(view.Ways, recipe.Option{ID: string(way), Text: way.Text()})
	}
	return view
}

// roundsOf is how many rounds of a step are done, where that many may be enough and it is open whether they are.
func roundsOf(m *snapshot.Snapshot, at snapshot.Located, coat int) int {
	rounds := at.Step().Repeat
	if rounds == nil {
		return 0
	}
	if _, settled := m.Input.Settled[at.Step().ID]; settled {
		return 0
	}
	passed := 0
	for done(m, *at.Step(), passed+1) {
		passed++
	}
	if passed < max(rounds.Least, 1) || coat <= passed-1 {
		return 0
	}
	return passed
}

// leftOutSheet is what is known of a step that is left out as a whole.
func leftOutSheet(at snapshot.Located) Sheet {
	step := at.Step()
	return Sheet{Event: changes.EventRef{StepID: step.ID, Coat: 1}, InstrumentID: at.Instrument().ID, Name: at.Instrument().Name,
		Piece: at.Piece().Kind, Kind: string(step.Kind),
		Title: step.Title, State: Finished, When: "left out", Because: "Left out: " + step.Out + ".", How: step.How, Why: step.Why,
		Lines: []SheetLine{}, Over: []changes.OverView{}, Cautions: []caution.Caution{}, Timers: []job.Timer{},
		Then: "It can be taken back in while the schedule is changed.", Done: true}
}

// windowText says until when an event should be done, and what it costs not to.
func windowText(m *snapshot.Snapshot, e schedule.Planned) string {
	if e.Done || e.Impossible != "" || e.Window.Kind == schedule.NoWindow {
		return ""
	}
	latest := m.Plan.Clock(e.Window.Latest)
	switch {
	case e.Window.Kind == schedule.Advisory && e.Window.Missed:
		return "Best before " + latest + ", which it misses: score along the edge first."
	case e.Window.Kind == schedule.Advisory:
		return "Best before " + latest + ": later it tears the film."
	case e.Window.Kind == schedule.Hard:
		return "Before " + latest + ", or the work is spoilt."
	}
	return "Before " + latest + "; after that the film must be scuffed first."
}

// lines are what to lay out, and the figures of a coat.
func sheetLines(m *snapshot.Snapshot, at snapshot.Located, event schedule.Event) []SheetLine {
	step, planned := at.Step(), at.Planned()
	lines := []SheetLine{}
	area := areaOf(m, at)
	if step.Note != "" {
		lines = append(lines, SheetLine{Label: "Note", Text: step.Note})
	}
	if planned.Material != nil {
		lines = append(lines, coatLines(planned, area)...)
	}
	if len(step.Ladder) > 0 {
		label := "Grits"
		if step.Kind == schedule.Buff {
			label = "With"
		}
		lines = append(lines, SheetLine{Label: label, Text: snapshot.LadderText(step.Ladder)})
	}
	if e, _ := m.Plan.Find(event); e.Batches > 1 {
		life, _ := m.Input.Shop.PotLifeOf(&planned)
		lines = append(lines, SheetLine{Label: "Mix",
			Text: fmt.Sprintf("in %d batches, each on within %s of mixing: it sets", e.Batches, life.String())})
	}
	hands := SheetLine{Label: "Hands", Text: "about " + planned.HandsOnMin.String()}
	if shown, known := minutesWorking(string(step.Kind), step.Method, area, len(step.Ladder), planned.HandsOnMin); known {
		hands.Figure, hands.Working = hands.Text, &shown
	}
	return append(lines, hands)
}

// minutesWorking shows how hands-on minutes came about, where the labour table
// and not the recipe set them.
func minutesWorking(kind string, method material.Method, area unit.SquareMetre, times int, planned unit.Minutes) (working.Working, bool) {
	for _, work := range []string{kind, "sand-bare", "scuff", "raise-grain", "colour-test", "inspect", "open-holes"} {
		rate, err := labour.Find(work, string(method))
		if err != nil {
			continue
		}
		if minutes, shown := rate.Minutes(area, max(times, 1)); minutes == planned {
			return shown, true
		}
	}
	return working.Working{}, false
}

func coatLines(planned schedule.Step, area unit.SquareMetre) []SheetLine {
	made, by := *planned.Material, planned.Method
	wet, source := made.Wet(by)
	lines := []SheetLine{{Label: "Put on", Text: fmt.Sprintf("%s, about %s wet", by.Text(), wet.String())}}
	if volume, shown, err := mix.CoatVolume(area, wet, source, string(by)); err == nil {
		figure := volume.String()
		lines = append(lines, SheetLine{Label: "Lay out", Text: figure + " of " + made.Name + ", and what stays in cup or cloth",
			Figure: figure, Working: &shown})
	}
	family := made.Family
	if planned.WipesOff() {
		lines = append(lines, SheetLine{Label: "Wipe off",
			Text: fmt.Sprintf("after %d min, before %d min have passed", family.WipeAfter, family.WipeBefore)})
	}
	if solids, from := made.Solids(); solids > 0.05 {
		dry, shown := film.ShowDry(wet, solids, family.Thin, from)
		figure := dry.String()
		lines = append(lines, SheetLine{Label: "Leaves", Text: "about " + figure + " dry on a face", Figure: figure, Working: &shown})
	}
	return append(lines, SheetLine{Label: "It wants", Text: fmt.Sprintf("%s to %s, at most %s humidity",
		family.TempMin.String(), family.TempMax.String(), family.HumidityMost.String())})
}

func areaOf(m *snapshot.Snapshot, at snapshot.Located) unit.SquareMetre {
	wanted := make(map[uuid.UUID]bool)
	for _, region := range at.Step().Regions {
		wanted[region] = true
	}
	var area unit.SquareMetre
	for _, piece := range at.Instrument().Pieces {
		for _, region := range piece.Regions {
			if wanted[region.ID] {
				area += unit.SquareMetre(region.AreaM2)
			}
		}
	}
	return area
}

// then names what follows an event on its piece.
func then(m *snapshot.Snapshot, event schedule.Event) string {
	e, _ := m.Plan.Find(event)
	next, found := after(m, e)
	if !found {
		return "Nothing more on this piece."
	}
	at, _ := m.Find(next.Step)
	when := m.Plan.Say(next.Start)
	if next.Impossible != "" {
		when = "which cannot be placed"
	}
	return at.Planned().EventTitle(next.Coat) + ", " + when
}

// cautions gathers the hazards of a step: of its work, its woods, and for
// abrasive work of the films it cuts.
func cautions(m *snapshot.Snapshot, at snapshot.Located) []caution.Caution {
	step := at.Step()
	kind := string(step.Kind)
	if step.Kind == schedule.MaskOn || step.Kind == schedule.MaskOff {
		kind = "tape"
	}
	base := func() caution.Facts {
		facts := caution.Facts{"step_kind": kind}
		if step.Method != "" {
			facts["method"] = string(step.Method)
		}
		switch {
		case step.Tool != "":
			facts["tool"] = step.Tool
		case step.Method == material.Spray:
			facts["tool"] = "spray-gun"
		}
		return facts
	}
	sets := append([]caution.Facts{base()}, recipe.Hazards(at.Instrument(), at.Piece(), step)...)
	withFamily := func(f material.Family) {
		facts := base()
		facts["family"], facts["kinetics"], facts["voc_class"] = f.ID, string(f.Kinetics), f.VOC
		sets = append(sets, facts)
	}
	if made := at.Planned().Material; made != nil {
		withFamily(made.Family)
	}
	if step.Kind.Handwork() {
		for _, below := range at.Piece().Steps[:at.S] {
			if f, err := material.FindFamily(below.Family); err == nil {
				withFamily(f)
			}
		}
		for _, region := range at.Piece().Regions {
			if timber, err := wood.Find(region.Wood); err == nil {
				facts := base()
				facts["wood_sensitiser"] = timber.Sensitiser
				sets = append(sets, facts)
			}
		}
	}
	found := caution.For(sets...)
	if found == nil {
		return []caution.Caution{}
	}
	return found
}

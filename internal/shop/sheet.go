package shop

import (
	"context"
	"fmt"
	"math"

	"github.com/google/uuid"

	"umberfrost/internal/craft/abrasive"
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
)

// Sheet is all a finisher needs for one event: what to do, why, with what, when
// and because of what, what to look for and what to beware of.
type Sheet struct {
	Event        EventRef          `json:"event"`
	InstrumentID uuid.UUID         `json:"instrumentId"`
	Name         string            `json:"name"`
	Piece        job.PieceKind     `json:"piece"`
	Kind         string            `json:"kind" enum:"sand,coat,scuff,mask-on,mask-off,level,buff,inspect,gate"`
	Family       string            `json:"family,omitempty" doc:"of a coat"`
	Title        string            `json:"title"`
	State        State             `json:"state" enum:"ready,drying,closing,waiting,late,finished"`
	When         string            `json:"when"`
	Start        *Moment           `json:"start,omitempty" doc:"absent when it cannot be placed"`
	Because      string            `json:"because"`
	Wait         *working.Working  `json:"wait,omitempty" doc:"how the wait that held it came about"`
	Where        string            `json:"where" doc:"the place it is done at"`
	Window       string            `json:"window,omitempty" doc:"until when it should be done, and what happens then"`
	Room         *RoomVerdict      `json:"room,omitempty" doc:"whether the air there is fit for it now"`
	How          string            `json:"how"`
	Why          string            `json:"why"`
	NoReturn     bool              `json:"noReturn"`
	Lines        []SheetLine       `json:"lines" doc:"what to lay out, and what it gives"`
	Over         []OverView        `json:"over" doc:"what is known of this coat over what lies below it"`
	School       *recipe.School    `json:"school,omitempty" doc:"the way that is followed here, where schools differ"`
	Check        *CheckView        `json:"check,omitempty"`
	Then         string            `json:"then" doc:"what follows on this piece"`
	Cautions     []caution.Caution `json:"cautions"`
	CanLog       bool              `json:"canLog" doc:"it can be logged now without a doubt"`
	LogLabel     string            `json:"logLabel"`
	Done         bool              `json:"done"`
	Behind       int               `json:"behind" doc:"how many events come before it and are not done"`
	Timers       []job.Timer       `json:"timers" doc:"clocks of minutes that belong to it"`
	Test         *TestView         `json:"test,omitempty" doc:"the film that it waits for, or that it is itself, can be tested"`
	Rounds       int               `json:"rounds,omitempty" doc:"so many rounds are done, and that may be enough; absent: not yet, or not done in rounds"`
}

// TestView is a film that can be tested for the milestone that is waited for.
type TestView struct {
	Event     EventRef           `json:"event" doc:"the coat"`
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

// Sheet shows one event.
func (s *Service) Sheet(ctx context.Context, stepID uuid.UUID, coat int) (Sheet, error) {
	var sheet Sheet
	err := s.look(ctx, func(m *moment) (err error) {
		sheet, err = m.sheet(stepID, coat)
		return err
	})
	return sheet, err
}

func (m *moment) sheet(stepID uuid.UUID, coat int) (Sheet, error) {
	at, found := m.find(stepID)
	if !found {
		return Sheet{}, missing("step", stepID)
	}
	e, found := m.plan.Find(schedule.Event{Step: stepID, Coat: coat})
	if !found && at.step().Out != "" {
		return leftOutSheet(at), nil
	}
	if !found {
		return Sheet{}, missing(fmt.Sprintf("coat %d of step", coat), stepID)
	}
	step, planned := at.step(), at.planned()
	sheet := Sheet{
		Event: ref(e.Event), InstrumentID: at.instrument().ID, Name: at.instrument().Name, Piece: at.piece().Kind, Kind: string(step.Kind),
		Family: step.Family, Title: planned.EventTitle(coat), State: Finished, When: m.plan.Say(e.Start), Start: m.momentOf(e),
		Because: explain.Sentence(m.plan, e.Event),
		How:     step.How, Why: step.Why, NoReturn: step.NoReturn, Lines: m.sheetLines(at, e.Event), Then: m.then(e.Event),
		Over: m.over(at), Cautions: m.cautions(at), CanLog: m.loggable(e), LogLabel: logLabel(planned, coat), Done: e.Done,
		Timers: m.timersOf(at, e), Test: m.testOf(e), Rounds: m.roundsOf(at, coat),
	}
	sheet.Where, sheet.Window = m.placeName(e.Place), m.windowText(e)
	if !e.Done {
		sheet.State, sheet.Behind = m.stateOf(e), len(m.openBefore(e.Event))
		if place := m.input.Shop.PlaceOf(&planned); planned.Material != nil && place.Room != nil {
			verdict := m.verdict(*planned.Material, place, planned.HandsOnMin)
			sheet.Room = &verdict
		}
	}
	if e.Impossible != "" {
		sheet.When = "cannot be placed"
	}
	if shown, held := explain.Working(m.plan, e.Event); held {
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
func (m *moment) timersOf(at located, e schedule.Planned) []job.Timer {
	planned := at.planned()
	w := timer.Work{Step: &planned}
	if planned.Kind == schedule.Coat {
		w.PotLife, _ = m.input.Shop.PotLifeOf(&planned)
	}
	if next, found := m.after(e); found {
		follows, _ := m.find(next.Step)
		step := follows.planned()
		w.Next = &step
		if step.Kind == schedule.MaskOff && next.Ready.After(m.now) {
			w.Peel[0] = unit.Minutes(math.Ceil(next.Ready.Sub(m.now).Minutes()))
			if next.Window.Latest.After(next.Ready) {
				w.Peel[1] = unit.Minutes(next.Window.Latest.Sub(m.now).Minutes())
			}
		}
	}
	if list := timer.Of(w); list != nil {
		return list
	}
	return []job.Timer{}
}

// after is the event that comes next on the piece of an event.
func (m *moment) after(e schedule.Planned) (schedule.Planned, bool) {
	found := false
	for _, other := range m.plan.Events {
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
func (m *moment) testOf(e schedule.Planned) *TestView {
	waiting := e
	if e.Done {
		next, found := m.after(e)
		for found && next.Done {
			next, found = m.after(next)
		}
		if !found || next.Held.Event != e.Event {
			return nil
		}
		waiting = next
	}
	if waiting.Held.Cause != schedule.Cure || waiting.Impossible != "" {
		return nil
	}
	coat, found := m.plan.Find(waiting.Held.Event)
	if !found || !coat.Done || coat.Skipped || !waiting.Held.Until.After(m.now) {
		return nil
	}
	at, _ := m.find(coat.Step)
	view := &TestView{Event: ref(coat.Event), Title: at.planned().EventTitle(coat.Coat), Milestone: waiting.Held.Wait.Milestone,
		Text: waiting.Held.Wait.Milestone.Text(), Ways: []recipe.Option{}}
	for _, way := range job.TestMethods {
		view.Ways = append(view.Ways, recipe.Option{ID: string(way), Text: way.Text()})
	}
	return view
}

// roundsOf is how many rounds of a step are done, where that many may be enough and it is open whether they are.
func (m *moment) roundsOf(at located, coat int) int {
	rounds := at.step().Repeat
	if rounds == nil {
		return 0
	}
	if _, settled := m.input.Settled[at.step().ID]; settled {
		return 0
	}
	passed := 0
	for m.done(*at.step(), passed+1) {
		passed++
	}
	if passed < max(rounds.Least, 1) || coat <= passed-1 {
		return 0
	}
	return passed
}

// leftOutSheet is what is known of a step that is left out as a whole.
func leftOutSheet(at located) Sheet {
	step := at.step()
	return Sheet{Event: EventRef{step.ID, 1}, InstrumentID: at.instrument().ID, Name: at.instrument().Name, Piece: at.piece().Kind, Kind: string(step.Kind),
		Title: step.Title, State: Finished, When: "left out", Because: "Left out: " + step.Out + ".", How: step.How, Why: step.Why,
		Lines: []SheetLine{}, Over: []OverView{}, Cautions: []caution.Caution{}, Timers: []job.Timer{}, Then: "It can be taken back in while the schedule is changed.", Done: true}
}

// windowText says until when an event should be done, and what it costs not to.
func (m *moment) windowText(e schedule.Planned) string {
	if e.Done || e.Impossible != "" || e.Window.Kind == schedule.NoWindow {
		return ""
	}
	latest := m.plan.Clock(e.Window.Latest)
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
func (m *moment) sheetLines(at located, event schedule.Event) []SheetLine {
	step, planned := at.step(), at.planned()
	lines := []SheetLine{}
	area := m.areaOf(at)
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
		lines = append(lines, SheetLine{Label: label, Text: ladderText(step.Ladder)})
	}
	if e, _ := m.plan.Find(event); e.Batches > 1 {
		life, _ := m.input.Shop.PotLifeOf(&planned)
		lines = append(lines, SheetLine{Label: "Mix",
			Text: fmt.Sprintf("in %d batches, each on within %s of mixing: it sets", e.Batches, life.Text())})
	}
	hands := SheetLine{Label: "Hands", Text: "about " + planned.HandsOnMin.Text()}
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
	lines := []SheetLine{{Label: "Put on", Text: fmt.Sprintf("%s, about %s wet", by.Text(), wet.Text())}}
	if volume, shown, err := mix.CoatVolume(area, wet, source, string(by)); err == nil {
		figure := volume.Text()
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
		figure := dry.Text()
		lines = append(lines, SheetLine{Label: "Leaves", Text: "about " + figure + " dry on a face", Figure: figure, Working: &shown})
	}
	return append(lines, SheetLine{Label: "It wants", Text: fmt.Sprintf("%s to %s, at most %s humidity",
		family.TempMin.Text(), family.TempMax.Text(), family.HumidityMost.Text())})
}

func (m *moment) areaOf(at located) unit.SquareMetre {
	wanted := make(map[uuid.UUID]bool)
	for _, region := range at.step().Regions {
		wanted[region] = true
	}
	var area unit.SquareMetre
	for _, piece := range at.instrument().Pieces {
		for _, region := range piece.Regions {
			if wanted[region.ID] {
				area += unit.SquareMetre(region.AreaM2)
			}
		}
	}
	return area
}

// then names what follows an event on its piece.
func (m *moment) then(event schedule.Event) string {
	e, _ := m.plan.Find(event)
	next, found := m.after(e)
	if !found {
		return "Nothing more on this piece."
	}
	at, _ := m.find(next.Step)
	when := m.plan.Say(next.Start)
	if next.Impossible != "" {
		when = "which cannot be placed"
	}
	return at.planned().EventTitle(next.Coat) + ", " + when
}

// cautions gathers the hazards of a step: of its work, its woods, and for
// abrasive work of the films it cuts.
func (m *moment) cautions(at located) []caution.Caution {
	step := at.step()
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
	sets := append([]caution.Facts{base()}, recipe.Hazards(at.instrument(), at.piece(), step)...)
	withFamily := func(f material.Family) {
		facts := base()
		facts["family"], facts["kinetics"], facts["voc_class"] = f.ID, string(f.Kinetics), f.VOC
		sets = append(sets, facts)
	}
	if made := at.planned().Material; made != nil {
		withFamily(made.Family)
	}
	if step.Kind.Handwork() {
		for _, below := range at.piece().Steps[:at.s] {
			if f, err := material.FindFamily(below.Family); err == nil {
				withFamily(f)
			}
		}
		for _, region := range at.piece().Regions {
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

func ladderText(keys []string) string {
	ladder, err := abrasive.LadderOf(keys...)
	if err != nil {
		return err.Error()
	}
	return ladder.Text()
}

// method names a method inside a sentence.
func method(m material.Method) string {
	return map[material.Method]string{"spray": "sprayed", "aerosol": "from the can", "brush": "brushed", "wipe": "wiped", "pad": "padded",
		"pour": "poured", "drop": "dropped in"}[m]
}

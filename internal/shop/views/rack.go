package views

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/schedule/explain"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// Rack is the home screen: what hangs on the rail, what hands do next, and the
// promises nearest to being broken.
type Rack struct {
	Now      snapshot.Moment `json:"now"`
	Shop     string          `json:"shop"`
	Today    string          `json:"today" doc:"Thu 12 March, 16:20"`
	Open     string          `json:"open" doc:"open until 18:00, or closed until Fri 09:00"`
	WorkLeft string          `json:"workLeft" doc:"hands-on work planned for the rest of the day"`
	Axis     []Tick          `json:"axis" doc:"marks along the rail, from now to later"`
	Tags     []Tag           `json:"tags" doc:"pieces in the order in which hands are next needed"`
	Next     []Due           `json:"next" doc:"today's work in order"`
	Then     *Due            `json:"then,omitempty" doc:"what comes first after today"`
	Room     RoomNow         `json:"room"`
	Promises []Promise       `json:"promises" doc:"running instruments, the tightest first"`
	Better   *ProposalLine   `json:"better,omitempty" doc:"a better order of work, when a promise slips without it"`

	Remembered *Remembered `json:"remembered,omitempty" doc:"the database does not answer: this is the rack as it was then"`
}

// Remembered is how old something is that the server knows from memory only.
type Remembered struct {
	At      time.Time `json:"at"`
	Minutes int       `json:"minutes" doc:"how long ago that was"`
}

// Tick is a mark along the rail.
type Tick struct {
	At    time.Time `json:"at"`
	Label string    `json:"label"`
}

// Tag is one piece on the rail.
type Tag struct {
	InstrumentID uuid.UUID        `json:"instrumentId"`
	PieceID      uuid.UUID        `json:"pieceId"`
	Name         string           `json:"name"`
	Piece        job.PieceKind    `json:"piece" enum:"body,neck,cavity,fretboard,frets,hardware,plastics,fittings,whole"`
	Outline      string           `json:"outline" enum:"two-horned,one-horned,slab,offset,angular,bass"`
	Own          *OwnOutline      `json:"own,omitempty" doc:"an outline of its own"`
	Colour       string           `json:"colour" doc:"#RRGGBB, the wood or the colour on it"`
	Event        changes.EventRef `json:"event" doc:"what is next on this piece"`
	Title        string           `json:"title"`
	State        State            `json:"state" enum:"ready,drying,closing,waiting,late"`
	When         string           `json:"when" doc:"now, in 50 min, Fri 09:00"`
	At           time.Time        `json:"at" doc:"where it hangs: when hands are next needed"`
	Frost        float64          `json:"frost" minimum:"0" maximum:"1" doc:"share of the wait that is left"`
	LateBy       string           `json:"lateBy,omitempty" doc:"3 days late"`
	Because      string           `json:"because"`
	CanLog       bool             `json:"canLog"`
	Place        string           `json:"place,omitempty" doc:"where it is, as far as the log knows"`
	PlaceID      uuid.UUID        `json:"placeId,omitzero"`
}

// Promise is how a running instrument stands against its promise.
type Promise struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name"`
	Outlook      Outlook   `json:"outlook"`
}

// RackKey is under which the rack is made once.
type RackKey struct{}

func MakeRack(m *snapshot.Snapshot) Rack {
	local := m.Now.In(m.Plan.Zone)
	rack := Rack{
		Now: m.Moment(m.Now), Shop: m.Setting.Name, Today: unit.DateText(local, "Mon 2 January, 15:04"), Open: openText(m),
		Axis: axis(m), Tags: tags(m), Room: roomNow(m), Promises: promises(m),
	}
	rack.Next, rack.Then, rack.WorkLeft = next(m)
	return rack
}

// openText says whether the shop is open, and until when it stays so.
func openText(m *snapshot.Snapshot) string {
	day := calendar.DayOf(m.Now.In(m.Plan.Zone))
	for d := range 60 {
		for _, span := range m.Calendar.OpenOn(day.AddDays(d)) {
			switch {
			case !span.End.After(m.Now):
			case span.Start.After(m.Now):
				return "closed until " + m.Plan.Clock(span.Start)
			default:
				return "open until " + m.Plan.Clock(span.End)
			}
		}
	}
	return "closed"
}

// axis marks the rail: the coming hours, then days, then what lies beyond.
func axis(m *snapshot.Snapshot) []Tick {
	zone := m.Plan.Zone
	local := m.Now.In(zone)
	today := calendar.DayOf(local)
	ticks := []Tick{{m.Now, "now"}}
	add := func(t time.Time, label string) {
		if t.Sub(ticks[len(ticks)-1].At) >= 45*time.Minute {
			ticks = append(ticks, Tick{t.UTC(), label})
		}
	}
	add(m.Now.Add(time.Hour), "in 1 h")
	add(m.Now.Add(3*time.Hour), "in 3 h")
	if evening := today.At(20*60, zone); evening.Sub(m.Now) > 4*time.Hour {
		add(evening, "tonight")
	}
	for d := 1; d <= 3; d++ {
		day, layout := today.AddDays(d), "Mon 2"
		if d == 1 || day.Date == 1 {
			layout = "Mon 2 Jan" // its month, once and where another begins
		}
		add(day.At(6*60, zone), unit.DateText(day.At(720, zone), layout))
	}
	add(today.AddDays(7).At(6*60, zone), "1 week")
	add(today.AddDays(14).At(6*60, zone), "2 weeks")
	add(today.AddDays(28).At(6*60, zone), "later")
	return append(ticks, Tick{today.AddDays(84).At(0, zone).UTC(), ""})
}

// tags hangs every piece that has work ahead, and those that wait to be joined. What
// can only follow other pieces does not hang beside them: a fretboard is part of its
// neck until that is done.
func tags(m *snapshot.Snapshot) []Tag {
	tags := []Tag{}
	for i, in := range m.Workshop.Instruments {
		if m.Plan.Forecasts[i].Finished {
			continue
		}
		next := make([]*schedule.Planned, len(in.Pieces))
		var joint *schedule.Planned // what waits for pieces that are not done
		for p, piece := range in.Pieces {
			if next[p] = nextOf(m, piece); next[p] != nil && follows(m, *next[p]) {
				if piece.Kind == job.Whole {
					joint = next[p]
				}
				next[p] = nil
				continue
			}
			if next[p] != nil {
				tags = append(tags, tag(m, i, piece, *next[p]))
			}
		}
		for p, piece := range in.Pieces {
			parted := piece.Kind == job.Body || piece.Kind == job.Neck
			if parted && next[p] == nil && joint != nil && awaits(m, *joint, piece) {
				tags = append(tags, joinTag(m, i, piece, *joint))
			}
		}
	}
	sort.SliceStable(tags, func(i, j int) bool { return tags[i].At.Before(tags[j].At) })
	return tags
}

// follows reports whether an event waits for steps of other pieces that are not done.
func follows(m *snapshot.Snapshot, e schedule.Planned) bool {
	at, _ := m.Find(e.Step)
	return slices.ContainsFunc(at.Step().After, func(id uuid.UUID) bool {
		other, found := m.Find(id)
		return found && nextOf(m, *other.Piece()) != nil && !allDone(m, *other.Step())
	})
}

// awaits reports whether an event waits for a piece.
func awaits(m *snapshot.Snapshot, e schedule.Planned, piece job.Piece) bool {
	at, _ := m.Find(e.Step)
	return slices.ContainsFunc(at.Step().After, func(id uuid.UUID) bool {
		return slices.ContainsFunc(piece.Steps, func(s job.Step) bool { return s.ID == id })
	})
}

// allDone reports whether every coat of a step is done or was left out.
func allDone(m *snapshot.Snapshot, step job.Step) bool {
	for coat := 1; coat <= step.Due(); coat++ {
		if _, done := m.Facts[schedule.Event{Step: step.ID, Coat: coat}]; !done {
			return false
		}
	}
	return true
}

// nextOf is the first event of a piece that is not done; nil when all are.
func nextOf(m *snapshot.Snapshot, piece job.Piece) *schedule.Planned {
	for _, step := range piece.Steps {
		for coat := 1; coat <= step.Due(); coat++ {
			if e, found := m.Plan.Find(schedule.Event{Step: step.ID, Coat: coat}); found && !e.Done {
				return &e
			}
		}
	}
	return nil
}

func tag(m *snapshot.Snapshot, i int, piece job.Piece, e schedule.Planned) Tag {
	in := m.Workshop.Instruments[i]
	at, _ := m.Find(e.Step)
	tag := Tag{
		InstrumentID: in.ID, PieceID: piece.ID, Name: in.Name, Piece: piece.Kind, Outline: in.Outline, Own: OutlineOf(in.Own),
		Colour: colourOf(m, in, piece),
		Event:  changes.Ref(e.Event), Title: shortTitle(at.Planned(), e.Coat), Because: explain.Sentence(m.Plan, e.Event),
		CanLog: loggable(m, e),
		At:     e.Open, State: stateOf(m, e),
	}
	if blocked(m, e) {
		tag.At, tag.CanLog = e.Start, false
	}
	tag.Frost = frost(m, e)
	if place, known := whereNow(m, piece); known {
		tag.Place, tag.PlaceID = place.Name, place.ID
	}
	tag.When = strings.Replace(m.Plan.Say(tag.At), "tomorrow", tag.At.In(m.Plan.Zone).Format("Mon"), 1) // a tag is narrow
	if tag.State == Closing {
		tag.When = "by " + m.Plan.Clock(e.Window.Latest)
	}
	if e.Impossible != "" {
		tag.At, tag.When = m.Now, "cannot be placed"
	}
	if o := outlook(m, i); o.Late {
		tag.State, tag.LateBy = Late, o.Slack
	}
	return tag
}

// whereNow is the place that a piece was carried to, or where it hangs since it was worked on last.
func whereNow(m *snapshot.Snapshot, piece job.Piece) (schedule.Place, bool) {
	var id uuid.UUID
	var since time.Time
	for _, e := range m.Plan.Events {
		if e.Piece != piece.ID || !e.Done || e.Skipped || e.End.Before(since) {
			continue
		}
		at, _ := m.Find(e.Step)
		step := at.Planned()
		if since, id = e.End, e.Place; step.Kind == schedule.Coat && id == m.Input.Shop.PlaceOf(&step).ID {
			id = m.Input.Shop.HangsIn(&step).ID
		}
	}
	for _, moved := range m.Input.Moves {
		if moved.Piece == piece.ID && !moved.At.Before(since) && !moved.At.After(m.Now) {
			since, id = moved.At, moved.Place
		}
	}
	for _, p := range m.Input.Shop.Places {
		if p.ID == id && !since.IsZero() {
			return p, true
		}
	}
	return schedule.Place{}, false
}

// frost is the share of the wait that is left before an event, while a film or a rest runs; 0 where none does.
func frost(m *snapshot.Snapshot, e schedule.Planned) float64 {
	if stateOf(m, e) != Drying || !e.Ready.After(e.Since) {
		return 0
	}
	return min(1, max(0.05, float64(e.Ready.Sub(m.Now))/float64(e.Ready.Sub(e.Since))))
}

// joinTag hangs a piece that is done and waits for its neighbour.
func joinTag(m *snapshot.Snapshot, i int, piece job.Piece, joint schedule.Planned) Tag {
	tag := tag(m, i, piece, joint)
	tag.State, tag.Frost, tag.CanLog = Waiting, 0, false
	tag.Title = "waits to be joined"
	if m.Plan.Forecasts[i].Late() {
		tag.State = Late
	}
	return tag
}

func colourOf(m *snapshot.Snapshot, in recipe.Instrument, piece job.Piece) string {
	if l := lookOf(m, piece); l.Colour != "" {
		return l.Colour
	}
	return lookOf(m, in.Pieces[0]).Colour // a whole looks like its first piece
}

// stateOf tells why an event is not now, hands left aside.
func stateOf(m *snapshot.Snapshot, e schedule.Planned) State {
	switch {
	case e.Impossible != "":
		return Late
	case blocked(m, e):
		return Waiting
	case !e.Open.After(m.Now) && closes(m, e):
		return Closing
	case !e.Open.After(m.Now):
		return Ready
	case e.Ready.After(m.Now) && !e.Since.IsZero() && e.Startable:
		return Drying
	}
	return Waiting
}

// blocked reports whether something other than hands keeps an event from being
// done now that its piece is ready: the air, dust, a full place, no hook.
func blocked(m *snapshot.Snapshot, e schedule.Planned) bool {
	switch e.Because.Cause {
	case schedule.Unfit, schedule.Dust, schedule.Full, schedule.Hooks:
		return e.Start.After(m.Now) && !e.Ready.After(m.Now)
	}
	return false
}

// soon is how near the end of a window is when it is said.
const soon = 12 * time.Hour

// closes reports whether the window of an event closes soon: then it wants to be
// done before, or a scuff comes first, or the work is spoilt.
func closes(m *snapshot.Snapshot, e schedule.Planned) bool {
	left := e.Window.Latest.Sub(m.Now)
	return e.Startable && e.Window.Kind >= schedule.Repairable && left > 0 && left < soon
}

// shortTitle names an event in a few words for a tag.
func shortTitle(step schedule.Step, coat int) string {
	switch {
	case step.Kind != schedule.Coat:
		return step.Title
	case step.Coats == 1:
		return "coat of " + step.Material.Family.Named()
	}
	return fmt.Sprintf("coat %d of %d, %s", coat, step.Coats, step.Material.Family.Named())
}

// tightness sorts promises: what cannot be placed at all comes before what is late.
func tightness(o Outlook) int {
	if o.Impossible != "" {
		return math.MinInt
	}
	return o.SlackDays
}

func promises(m *snapshot.Snapshot) []Promise {
	list := []Promise{}
	for i, in := range m.Workshop.Instruments {
		if o := outlook(m, i); !o.Finished {
			list = append(list, Promise{in.ID, in.Name, o})
		}
	}
	sort.SliceStable(list, func(i, j int) bool { return tightness(list[i].Outlook) < tightness(list[j].Outlook) })
	return list
}

package shop

import (
	"context"
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
)

// Rack is the home screen: what hangs on the rail, what hands do next, and the
// promises nearest to being broken.
type Rack struct {
	Now      Moment        `json:"now"`
	Shop     string        `json:"shop"`
	Today    string        `json:"today" doc:"Thu 12 March, 16:20"`
	Open     string        `json:"open" doc:"open until 18:00, or closed until Fri 09:00"`
	WorkLeft string        `json:"workLeft" doc:"hands-on work planned for the rest of the day"`
	Axis     []Tick        `json:"axis" doc:"marks along the rail, from now to later"`
	Tags     []Tag         `json:"tags" doc:"pieces in the order in which hands are next needed"`
	Next     []Due         `json:"next" doc:"today's work in order"`
	Then     *Due          `json:"then,omitempty" doc:"what comes first after today"`
	Room     RoomNow       `json:"room"`
	Promises []Promise     `json:"promises" doc:"running instruments, the tightest first"`
	Better   *ProposalLine `json:"better,omitempty" doc:"a better order of work, when a promise slips without it"`

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
	InstrumentID uuid.UUID     `json:"instrumentId"`
	PieceID      uuid.UUID     `json:"pieceId"`
	Name         string        `json:"name"`
	Piece        job.PieceKind `json:"piece" enum:"body,neck,cavity,fretboard,frets,hardware,plastics,fittings,whole"`
	Outline      string        `json:"outline" enum:"two-horned,one-horned,slab,offset,angular,bass"`
	Own          *OwnOutline   `json:"own,omitempty" doc:"an outline of its own"`
	Colour       string        `json:"colour" doc:"#RRGGBB, the wood or the colour on it"`
	Event        EventRef      `json:"event" doc:"what is next on this piece"`
	Title        string        `json:"title"`
	State        State         `json:"state" enum:"ready,drying,closing,waiting,late"`
	When         string        `json:"when" doc:"now, in 50 min, Fri 09:00"`
	At           time.Time     `json:"at" doc:"where it hangs: when hands are next needed"`
	Frost        float64       `json:"frost" minimum:"0" maximum:"1" doc:"share of the wait that is left"`
	LateBy       string        `json:"lateBy,omitempty" doc:"3 days late"`
	Because      string        `json:"because"`
	CanLog       bool          `json:"canLog"`
	Place        string        `json:"place,omitempty" doc:"where it is, as far as the log knows"`
	PlaceID      uuid.UUID     `json:"placeId,omitzero"`
}

// Promise is how a running instrument stands against its promise.
type Promise struct {
	InstrumentID uuid.UUID `json:"instrumentId"`
	Name         string    `json:"name"`
	Outlook      Outlook   `json:"outlook"`
}

// rackKey is under which the rack is made once.
type rackKey struct{}

// Rack shows the shop as it is now; where the database does not answer, as it was last known.
func (s *Service) Rack(ctx context.Context) (Rack, error) {
	var rack Rack
	var known time.Time
	remembered, err := s.lookAnyway(ctx, func(m *moment) error {
		rack, known = madeOnce(m, rackKey{}, func() Rack { return m.makeRack() }), m.now
		return nil
	})
	if err != nil {
		return rack, err
	}
	if remembered {
		minutes := int(s.clock().Sub(known).Minutes())
		rack.Remembered = &Remembered{At: known.UTC(), Minutes: max(0, minutes)}
		return rack, nil
	}
	rack.Better, err = s.line(ctx)
	return rack, err
}

func (m *moment) makeRack() Rack {
	local := m.now.In(m.plan.Zone)
	rack := Rack{
		Now: m.moment(m.now), Shop: m.setting.Name, Today: unit.DateText(local, "Mon 2 January, 15:04"), Open: m.openText(),
		Axis: m.axis(), Tags: m.tags(), Room: m.roomNow(), Promises: m.promises(),
	}
	rack.Next, rack.Then, rack.WorkLeft = m.next()
	return rack
}

// openText says whether the shop is open, and until when it stays so.
func (m *moment) openText() string {
	day := calendar.DayOf(m.now.In(m.plan.Zone))
	for d := range 60 {
		for _, span := range m.calendar.OpenOn(day.AddDays(d)) {
			switch {
			case !span.End.After(m.now):
			case span.Start.After(m.now):
				return "closed until " + m.plan.Clock(span.Start)
			default:
				return "open until " + m.plan.Clock(span.End)
			}
		}
	}
	return "closed"
}

// axis marks the rail: the coming hours, then days, then what lies beyond.
func (m *moment) axis() []Tick {
	zone := m.plan.Zone
	local := m.now.In(zone)
	today := calendar.DayOf(local)
	ticks := []Tick{{m.now, "now"}}
	add := func(t time.Time, label string) {
		if t.Sub(ticks[len(ticks)-1].At) >= 45*time.Minute {
			ticks = append(ticks, Tick{t.UTC(), label})
		}
	}
	add(m.now.Add(time.Hour), "in 1 h")
	add(m.now.Add(3*time.Hour), "in 3 h")
	if evening := today.At(20*60, zone); evening.Sub(m.now) > 4*time.Hour {
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
func (m *moment) tags() []Tag {
	tags := []Tag{}
	for i, in := range m.file.Instruments {
		if m.plan.Forecasts[i].Finished {
			continue
		}
		next := make([]*schedule.Planned, len(in.Pieces))
		var joint *schedule.Planned // what waits for pieces that are not done
		for p, piece := range in.Pieces {
			if next[p] = m.nextOf(piece); next[p] != nil && m.follows(*next[p]) {
				if piece.Kind == job.Whole {
					joint = next[p]
				}
				next[p] = nil
				continue
			}
			if next[p] != nil {
				tags = append(tags, m.tag(i, piece, *next[p]))
			}
		}
		for p, piece := range in.Pieces {
			parted := piece.Kind == job.Body || piece.Kind == job.Neck
			if parted && next[p] == nil && joint != nil && m.awaits(*joint, piece) {
				tags = append(tags, m.joinTag(i, piece, *joint))
			}
		}
	}
	sort.SliceStable(tags, func(i, j int) bool { return tags[i].At.Before(tags[j].At) })
	return tags
}

// follows reports whether an event waits for steps of other pieces that are not done.
func (m *moment) follows(e schedule.Planned) bool {
	at, _ := m.find(e.Step)
	return slices.ContainsFunc(at.step().After, func(id uuid.UUID) bool {
		other, found := m.find(id)
		return found && m.nextOf(*other.piece()) != nil && !m.allDone(*other.step())
	})
}

// awaits reports whether an event waits for a piece.
func (m *moment) awaits(e schedule.Planned, piece job.Piece) bool {
	at, _ := m.find(e.Step)
	return slices.ContainsFunc(at.step().After, func(id uuid.UUID) bool {
		return slices.ContainsFunc(piece.Steps, func(s job.Step) bool { return s.ID == id })
	})
}

// allDone reports whether every coat of a step is done or was left out.
func (m *moment) allDone(step job.Step) bool {
	for coat := 1; coat <= step.Due(); coat++ {
		if _, done := m.facts[schedule.Event{Step: step.ID, Coat: coat}]; !done {
			return false
		}
	}
	return true
}

// nextOf is the first event of a piece that is not done; nil when all are.
func (m *moment) nextOf(piece job.Piece) *schedule.Planned {
	for _, step := range piece.Steps {
		for coat := 1; coat <= step.Due(); coat++ {
			if e, found := m.plan.Find(schedule.Event{Step: step.ID, Coat: coat}); found && !e.Done {
				return &e
			}
		}
	}
	return nil
}

func (m *moment) tag(i int, piece job.Piece, e schedule.Planned) Tag {
	in := m.file.Instruments[i]
	at, _ := m.find(e.Step)
	tag := Tag{
		InstrumentID: in.ID, PieceID: piece.ID, Name: in.Name, Piece: piece.Kind, Outline: in.Outline, Own: ownOutline(in.Own), Colour: m.colourOf(in, piece),
		Event: ref(e.Event), Title: shortTitle(at.planned(), e.Coat), Because: explain.Sentence(m.plan, e.Event), CanLog: m.loggable(e),
		At: e.Open, State: m.stateOf(e),
	}
	if m.blocked(e) {
		tag.At, tag.CanLog = e.Start, false
	}
	tag.Frost = m.frost(e)
	if place, known := m.whereNow(piece); known {
		tag.Place, tag.PlaceID = place.Name, place.ID
	}
	tag.When = strings.Replace(m.plan.Say(tag.At), "tomorrow", tag.At.In(m.plan.Zone).Format("Mon"), 1) // a tag is narrow
	if tag.State == Closing {
		tag.When = "by " + m.plan.Clock(e.Window.Latest)
	}
	if e.Impossible != "" {
		tag.At, tag.When = m.now, "cannot be placed"
	}
	if o := m.outlook(i); o.Late {
		tag.State, tag.LateBy = Late, o.Slack
	}
	return tag
}

// whereNow is the place that a piece was carried to, or where it hangs since it was worked on last.
func (m *moment) whereNow(piece job.Piece) (schedule.Place, bool) {
	var id uuid.UUID
	var since time.Time
	for _, e := range m.plan.Events {
		if e.Piece != piece.ID || !e.Done || e.Skipped || e.End.Before(since) {
			continue
		}
		at, _ := m.find(e.Step)
		step := at.planned()
		if since, id = e.End, e.Place; step.Kind == schedule.Coat && id == m.input.Shop.PlaceOf(&step).ID {
			id = m.input.Shop.HangsIn(&step).ID
		}
	}
	for _, moved := range m.input.Moves {
		if moved.Piece == piece.ID && !moved.At.Before(since) && !moved.At.After(m.now) {
			since, id = moved.At, moved.Place
		}
	}
	for _, p := range m.input.Shop.Places {
		if p.ID == id && !since.IsZero() {
			return p, true
		}
	}
	return schedule.Place{}, false
}

// frost is the share of the wait that is left before an event, while a film or a rest runs; 0 where none does.
func (m *moment) frost(e schedule.Planned) float64 {
	if m.stateOf(e) != Drying || !e.Ready.After(e.Since) {
		return 0
	}
	return min(1, max(0.05, float64(e.Ready.Sub(m.now))/float64(e.Ready.Sub(e.Since))))
}

// joinTag hangs a piece that is done and waits for its neighbour.
func (m *moment) joinTag(i int, piece job.Piece, joint schedule.Planned) Tag {
	tag := m.tag(i, piece, joint)
	tag.State, tag.Frost, tag.CanLog = Waiting, 0, false
	tag.Title = "waits to be joined"
	if m.plan.Forecasts[i].Late() {
		tag.State = Late
	}
	return tag
}

func (m *moment) colourOf(in recipe.Instrument, piece job.Piece) string {
	if l := m.lookOf(piece); l.Colour != "" {
		return l.Colour
	}
	return m.lookOf(in.Pieces[0]).Colour // a whole looks like its first piece
}

// stateOf tells why an event is not now, hands left aside.
func (m *moment) stateOf(e schedule.Planned) State {
	switch {
	case e.Impossible != "":
		return Late
	case m.blocked(e):
		return Waiting
	case !e.Open.After(m.now) && m.closes(e):
		return Closing
	case !e.Open.After(m.now):
		return Ready
	case e.Ready.After(m.now) && !e.Since.IsZero() && e.Startable:
		return Drying
	}
	return Waiting
}

// blocked reports whether something other than hands keeps an event from being
// done now that its piece is ready: the air, dust, a full place, no hook.
func (m *moment) blocked(e schedule.Planned) bool {
	switch e.Because.Cause {
	case schedule.Unfit, schedule.Dust, schedule.Full, schedule.Hooks:
		return e.Start.After(m.now) && !e.Ready.After(m.now)
	}
	return false
}

// soon is how near the end of a window is when it is said.
const soon = 12 * time.Hour

// closes reports whether the window of an event closes soon: then it wants to be
// done before, or a scuff comes first, or the work is spoilt.
func (m *moment) closes(e schedule.Planned) bool {
	left := e.Window.Latest.Sub(m.now)
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

func (m *moment) promises() []Promise {
	list := []Promise{}
	for i, in := range m.file.Instruments {
		if o := m.outlook(i); !o.Finished {
			list = append(list, Promise{in.ID, in.Name, o})
		}
	}
	sort.SliceStable(list, func(i, j int) bool { return tightness(list[i].Outlook) < tightness(list[j].Outlook) })
	return list
}

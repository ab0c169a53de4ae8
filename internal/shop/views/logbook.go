package views

import (
	"encoding/base64"
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// LogLine is one entry of the log in words.
type LogLine struct {
	ID           uuid.UUID         `json:"id"`
	InstrumentID uuid.UUID         `json:"instrumentId"`
	Kind         string            `json:"kind" enum:"done,skipped,failed,note,void,moved,tested,settled,timed,stopped"`
	Title        string            `json:"title"`
	Piece        job.PieceKind     `json:"piece"`
	By           string            `json:"by" doc:"who has worked"`
	EnteredBy    string            `json:"enteredBy,omitempty" doc:"on which paired device it was entered, and who was on it where that is somebody else"`
	Happened     snapshot.Moment   `json:"happened"`
	Recorded     snapshot.Moment   `json:"recorded"`
	Planned      *snapshot.Moment  `json:"planned,omitempty" doc:"when it was planned at the time it was logged"`
	Note         string            `json:"note"`
	Flags        []string          `json:"flags" doc:"what was doubtful when it came in: out-of-order, too-soon, future, duplicate, late"`
	Struck       bool              `json:"struck" doc:"voided by a later entry"`
	CanStrike    bool              `json:"canStrike"`
	CanRestore   bool              `json:"canRestore" doc:"it is struck, and logging it again at its own time would let it stand"`
	Event        *changes.EventRef `json:"event,omitempty"`
	Instrument   string            `json:"instrument" doc:"its name"`
	Details      []string          `json:"details" doc:"what was true of it: lot, thinning, wet film, who worked too"`
	Corrected    bool              `json:"corrected" doc:"it was put right: the entry as it was first logged is struck"`
	CanCorrect   bool              `json:"canCorrect" doc:"it can be put right: it is struck and logged anew, as it was"`
	Place        string            `json:"place" doc:"where the next page of the log begins after it"`
	Entered      EnteredView       `json:"entered" doc:"what it says, as it would be typed, to put right"`
	Minutes      *int              `json:"minutes,omitempty"`
	PlannedGap   string            `json:"plannedGap,omitempty" doc:"2 h later than planned"`
	Meant        string            `json:"meant,omitempty" doc:"what its step was to be when it was logged, where that is another by now"`
}

// EnteredView is what was true of an entry as a person would type it.
type EnteredView struct {
	With      []uuid.UUID `json:"with"`
	PlaceID   uuid.UUID   `json:"placeId,omitzero"`
	ProductID uuid.UUID   `json:"productId,omitzero"`
	Lot       string      `json:"lot"`
	Thin      string      `json:"thin"`
	Passes    int         `json:"passes"`
	Wet       string      `json:"wet"`
	Air       string      `json:"temperature"`
	Humidity  string      `json:"humidity"`
}

func enteredOf(a *job.Actual) EnteredView {
	view := EnteredView{With: []uuid.UUID{}}
	if a == nil {
		return view
	}
	view.With = append(view.With, a.With...)
	view.Lot, view.Passes = a.Lot, a.Passes
	if a.Place != nil {
		view.PlaceID = *a.Place
	}
	if a.Product != nil {
		view.ProductID = *a.Product
	}
	if a.ThinPct != nil {
		view.Thin = unit.Percent(*a.ThinPct).String()
	}
	if a.WetUm != nil {
		view.Wet = a.WetUm.String()
	}
	if a.AirC != nil {
		view.Air = unit.Celsius(*a.AirC).String()
	}
	if a.AirPct != nil {
		view.Humidity = unit.Percent(*a.AirPct).String()
	}
	return view
}

// LogAsked is which lines of the log are wanted; what is absent leaves nothing out.
type LogAsked struct {
	InstrumentID uuid.UUID     `json:"instrumentId,omitzero"`
	Piece        job.PieceKind `json:"piece,omitempty" enum:"body,neck,cavity,fretboard,frets,hardware,plastics,fittings,whole"`
	Kind         job.Kind      `json:"kind,omitempty" enum:"sand,coat,scuff,mask-on,mask-off,level,buff,inspect,gate" doc:"of the step"`
	ProductID    uuid.UUID     `json:"productId,omitzero"`
	PersonID     uuid.UUID     `json:"personId,omitzero" doc:"who logged it, or worked on it too"`
	From         string        `json:"from,omitempty" doc:"its first day, like 2026-03-09"`
	Until        string        `json:"until,omitempty" doc:"its last day"`
	After        string        `json:"after,omitempty" maxLength:"300" doc:"the place of the last line of the page before"`
	Count        int           `json:"count,omitempty" minimum:"0" maximum:"200" doc:"how many lines at most; absent: 100"`
}

// LogPage is some lines of the log, the newest first.
type LogPage struct {
	Lines []LogLine `json:"lines"`
	More  bool      `json:"more" doc:"others stand behind the last of them"`
}

// Days reads the days between which the log is wanted.
func (in LogAsked) Days(asked *store.LogAsked, now time.Time, zone *time.Location) error {
	for _, d := range []struct {
		field, text string
		later       int
		into        *time.Time
	}{{"from", in.From, 0, &asked.From}, {"until", in.Until, 1, &asked.To}} {
		if d.text == "" {
			continue
		}
		day, err := calendar.ParseDay(d.text)
		switch {
		case err != nil:
			return refuse.Field(d.field, "write the day like 2026-03-12", d.text)
		case !refuse.PlausibleDay(day, now):
			return refuse.Field(d.field, refuse.DatesAccepted, d.text)
		}
		*d.into = day.AddDays(d.later).At(0, zone)
	}
	return nil
}

// placeOf says where a line stands in the log, and readPlace reads that again.
func placeOf(row store.LogLine) string {
	data, _ := json.Marshal(store.LogPlace{HappenedAt: row.HappenedAt, RecordedAt: row.RecordedAt, ID: row.ID}) // times and an id
	return base64.RawURLEncoding.EncodeToString(data)
}

func ReadPlace(text string) (*store.LogPlace, error) {
	place := &store.LogPlace{}
	data, err := base64.RawURLEncoding.DecodeString(text)
	if err == nil {
		err = json.Unmarshal(data, place)
	}
	if err != nil || place.ID == uuid.Nil {
		return nil, refuse.Field("after", "must be the place of a line of the log", text)
	}
	return place, nil
}

func kindOf(m *snapshot.Snapshot, piece uuid.UUID) job.PieceKind {
	for _, in := range m.Workshop.Instruments {
		for _, p := range in.Pieces {
			if p.ID == piece {
				return p.Kind
			}
		}
	}
	return ""
}

func LogLineOf(m *snapshot.Snapshot, row store.LogLine) LogLine {
	line := LogLine{ID: row.ID, Kind: row.Kind, Title: "Note", By: row.PersonName, Happened: m.Moment(row.HappenedAt),
		Recorded: m.Moment(row.RecordedAt),
		Note:     row.Note, Flags: row.Flags, Struck: row.VoidedBy != nil}
	line.InstrumentID, line.Instrument, line.Place = row.Instrument, m.InstrumentName(row.Instrument), placeOf(row)
	line.CanStrike, line.Minutes = !line.Struck && row.Kind != job.Void && row.Kind != job.Stopped, row.Minutes
	line.CanCorrect, line.Corrected = !line.Struck && row.Kind == job.Done, row.Corrects != nil
	line.Details = append([]string{}, actualText(m, row.Actual)...)
	if on := row.Entry.Entered; on != nil {
		if line.EnteredBy = on.Device; on.Person != row.Person {
			line.EnteredBy = on.Device + " by " + m.PersonName(on.Person)
		}
	}
	line.Entered = enteredOf(row.Actual)
	if event := row.Event(); event.Coat > 0 {
		shown := changes.Ref(event)
		line.Event = &shown
		_, stands := m.Facts[event]
		line.CanRestore = line.Struck && row.Completes() && !stands
	}
	line.CanRestore = line.CanRestore || (line.Struck && row.Kind == job.Note)
	if line.Flags == nil {
		line.Flags = []string{}
	}
	if row.Step != nil {
		at, found := m.Recall(*row.Step)
		if found {
			line.Title, line.Piece = at.Planned().EventTitle(*row.Coat), at.Piece().Kind
		}
		if meant := row.Entry.Planned; meant != nil {
			line.Title = meant.Title // as it was meant then
			if found && !reflect.DeepEqual(meant, at.ToBe(*row.Coat)) {
				line.Meant = meantText(m, meant)
			}
		}
	}
	line.Title = changes.LineTitle(m, row.Entry, line.Title)
	if row.Piece != nil {
		line.Piece = kindOf(m, *row.Piece)
	}
	if row.PlannedStart != nil && row.Kind == job.Done {
		planned := m.Moment(*row.PlannedStart)
		line.Planned, line.PlannedGap = &planned, gapText(row.HappenedAt.Sub(*row.PlannedStart))
	}
	return line
}

// meantText says what a step was to be.
func meantText(m *snapshot.Snapshot, p *job.Planned) string {
	var parts []string
	if p.Coats > 1 {
		parts = append(parts, phrase.Plural(p.Coats, "coat"))
	}
	key := p.Family
	if p.Product != nil {
		key = p.Product.String()
	}
	if key != "" {
		parts = append(parts, stratumName(m, key, p.Family), snapshot.Method(p.Method))
	}
	if len(p.Ladder) > 0 {
		parts = append(parts, snapshot.LadderText(p.Ladder))
	}
	if len(p.Where) > 0 {
		parts = append(parts, "on "+phrase.List(p.Where))
	}
	return strings.Join(append(parts, p.Minutes.String()), ", ")
}

// gapText says how far something done was from its plan; the finish of the
// work is compared with its planned start, so less than an hour is as planned.
func gapText(gap time.Duration) string {
	hours := int(gap.Hours())
	switch {
	case hours >= 48:
		return phrase.Plural(hours/24, "day") + " later than planned"
	case hours >= 1:
		return fmt.Sprintf("%d h later than planned", hours)
	case hours <= -48:
		return phrase.Plural(-hours/24, "day") + " earlier than planned"
	case hours <= -1:
		return fmt.Sprintf("%d h earlier than planned", -hours)
	}
	return "as planned"
}

package recipe

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/check"
	"umberfrost/internal/craft/labour"
	"umberfrost/internal/craft/layering"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/wood"
)

// Compose turns a wish into a schedule. It returns every fault it finds, and a
// draft only when there is none. An error means that a rule itself is wrong.
func Compose(wish Wish) (Draft, []Fault, error) {
	if faults := checkWish(wish); len(faults) > 0 {
		return Draft{}, faults, nil
	}
	w := wish.ready()
	c := composing{wish: &w, tops: make(map[string]top)}
	for _, kind := range Kinds {
		c.compose(kind)
	}
	if len(c.faults) > 0 || len(c.errs) > 0 {
		return Draft{}, c.faults, errors.Join(c.errs...)
	}
	return c.draft, nil, nil
}

// composing is a schedule while it is written, piece by piece.
type composing struct {
	wish   *Wish
	draft  Draft
	tops   map[string]top // by zone, what lies uppermost
	faults []Fault
	errs   []error
}

// top is what lies uppermost in a zone.
type top struct {
	family string // empty: bare
	dull   bool   // scuffed or levelled since it was put on
	open   bool   // colour below is not sealed yet
}

func (c *composing) compose(kind PieceKind) {
	w := c.wish
	glued := w.gluedFirst() // then the smaller things follow the finish of the whole
	switch kind {
	case Body, Neck:
		if p := w.piece(kind); p != nil {
			c.surface(p)
		}
	case Cavity:
		if w.Cavities != "none" && !glued {
			c.cavities()
		}
	case Board:
		if w.boardApart() && !glued {
			c.board()
		}
	case Frets:
		if w.Frets != "none" && !glued {
			c.frets()
		}
	case Whole:
		if w.piece(Body) != nil && w.piece(Neck) != nil {
			c.whole()
		}
	}
}

// writer writes the steps of one piece.
type writer struct {
	*composing
	piece *Piece
	zones []Zone // of the whole instrument where the piece is the whole
	p     *PieceWish
}

// begin opens a piece.
func (c *composing) begin(kind PieceKind, p *PieceWish, zones []Zone) *writer {
	c.draft.Pieces = append(c.draft.Pieces, Piece{Kind: kind, Zones: zones})
	return &writer{c, &c.draft.Pieces[len(c.draft.Pieces)-1], zones, p}
}

// line is one step as the rules write it.
type line struct {
	slot   string
	kind   schedule.Kind
	title  string
	zones  []Zone // nil: all of the piece
	after  []string
	role   string // of a coat
	family string
	method material.Method
	coats  int
	sheen  string
	ladder []string // marks or compounds, by key
	check  string
	film   material.Milestone
	rest   time.Duration
	work   string // row of labour.csv where it is not the kind's own
	fixed  unit.Minutes
	tool   string
	how    string
	why    string
	school string
	terms  schedule.Terms
}

// add writes a step.
func (w *writer) add(l line) {
	if l.zones == nil {
		l.zones = w.zones
	}
	if len(l.zones) == 0 {
		return
	}
	step, err := l.step(w.piece.Kind)
	if err != nil {
		w.errs = append(w.errs, err)
		return
	}
	if l.kind == schedule.Coat {
		step.NoReturn = w.seals(l)
	}
	for _, z := range l.zones {
		t := w.tops[z.Key]
		switch l.kind {
		case schedule.Coat:
			over := group(l.family)
			t = top{family: l.family, open: over == "colour" || (t.open && over == "fill")}
		case schedule.Scuff, schedule.Level, schedule.Sand:
			t.dull = len(l.ladder) > 0
		}
		w.tops[z.Key] = t
	}
	w.piece.Steps = append(w.piece.Steps, step)
}

// seals reports whether a coat is the first that shuts colour in: the first point
// of no return.
func (w *writer) seals(l line) bool {
	over := group(l.family)
	return over != "colour" && over != "fill" && slices.ContainsFunc(l.zones, func(z Zone) bool {
		return w.tops[z.Key].open
	})
}

func group(family string) string {
	f, err := material.FindFamily(family)
	if err != nil {
		return ""
	}
	return f.Group
}

// put writes a coat and sees to it that it holds on what lies below: scuffed,
// misted, tried on scrap, or over the barrier that helps.
func (w *writer) put(l line) {
	if l.zones == nil {
		l.zones = w.zones
	}
	for _, under := range w.below(l.zones) {
		if !w.joins(under, l) {
			return
		}
	}
	var scuffed []Zone
	for _, under := range w.below(l.zones) {
		v := layering.Over(under, l.family)
		switch v.Condition {
		case layering.Scuffed:
			scuffed = append(scuffed, w.lying(under, l.zones)...)
		case layering.LightMist:
			l.how += " Open with two light dry mists: " + lower(v.Reason)
		case layering.FullCure:
			l.film = material.FullCure
		}
		if v.Condition == layering.TestFirst || v.Answer == layering.Untested {
			l.how += " Try the pair on scrap first."
			w.note(v.Text())
		}
	}
	w.scuff(l.slot, scuffed)
	w.add(l)
}

// joins puts a barrier between a coat and what lies below it where they need one, or
// where one takes the doubt away. It reports whether the coat may go on.
func (w *writer) joins(under string, l line) bool {
	v := layering.Over(under, l.family)
	misted := l.method == material.Spray || l.method == material.Aerosol
	doubtful := v.Condition == layering.TestFirst || v.Answer == layering.Untested || (v.Condition == layering.LightMist && !misted)
	barrier, helps := layering.Between(under, l.family)
	switch helps = helps && barrier.Joined() && barrier.Family != under; {
	case (v.Needs() || doubtful) && helps:
		w.barrier(barrier, l, w.lying(under, l.zones), v)
	case v.Needs():
		w.faults = append(w.faults, Fault{w.path() + ".clear", v.Text() + " Choose another clear, or another colour or filler below it.", l.family})
		return false
	}
	return true
}

// lying are the zones in which a family lies uppermost.
func (w *writer) lying(family string, zones []Zone) []Zone {
	return only(zones, func(z Zone) bool { return w.tops[z.Key].family == family })
}

// below lists the families that lie uppermost in some zones.
func (w *writer) below(zones []Zone) []string {
	var list []string
	for _, z := range zones {
		if f := w.tops[z.Key].family; f != "" && !slices.Contains(list, f) {
			list = append(list, f)
		}
	}
	return list
}

func (w *writer) barrier(b layering.Barrier, l line, zones []Zone, v layering.Verdict) {
	f, err := material.FindFamily(b.Family)
	if err != nil {
		w.errs = append(w.errs, err)
		return
	}
	w.put(line{slot: "barrier-" + l.slot + "-" + b.Under, kind: schedule.Coat, title: "Barrier of " + f.Named(), zones: zones, role: "barrier", family: b.Family,
		method: w.by(f), coats: b.Coats, how: barrierHow(w.by(f)), why: v.Reason + " " + b.Note})
}

func barrierHow(by material.Method) string {
	if by == material.Spray || by == material.Aerosol {
		return "Thin and even, the first pass a dry mist."
	}
	return "Thin and quick, one pass in one direction, never back over it."
}

// scuff dulls what lies uppermost before a coat that holds on scratches.
func (w *writer) scuff(before string, zones []Zone) {
	zones = slices.DeleteFunc(slices.Clone(zones), func(z Zone) bool { return w.tops[z.Key].dull })
	if len(zones) == 0 {
		return
	}
	w.add(scuffLine(before, zones))
}

func scuffLine(before string, zones []Zone) line {
	return line{slot: "scuff-" + before, kind: schedule.Scuff, title: "Scuff for grip", zones: zones, ladder: papers(400),
		how: "An even dull face all over, no shiny spot; a very fine pad on curves. Wipe the dust off.",
		why: "The next film holds on the scratches of this one and on nothing else."}
}

func (w *writer) note(text string) {
	if !slices.Contains(w.draft.Notes, text) {
		w.draft.Notes = append(w.draft.Notes, text)
	}
}

// path is where the wish of the piece stands in the wish.
func (w *writer) path() string {
	for i := range w.wish.Pieces {
		if w.wish.Pieces[i].Kind == w.p.Kind {
			return fmt.Sprintf("pieces[%d]", i)
		}
	}
	return "pieces"
}

// by is how a material is put on in this piece: like its clear where it can be,
// sprayed where that is sprayed at all, and by hand otherwise.
func (w *writer) by(f material.Family) material.Method {
	own := w.p.method()
	order := []material.Method{own, material.Wipe, material.Brush, material.Pad}
	if w.p.sprays() {
		order = []material.Method{own, material.Spray, material.Aerosol, material.Wipe}
	}
	for _, m := range order {
		if slices.Contains(f.Methods, m) {
			return m
		}
	}
	return f.Methods[0]
}

// step works out a line. The rules are written here, so what they name must exist:
// a mistake is reported with the slot's name.
func (l line) step(piece PieceKind) (Step, error) {
	s := Step{
		Slot: key(piece, l.slot), Kind: l.kind, Title: l.title, After: l.after, Role: l.role, Family: l.family, Method: l.method, Coats: max(l.coats, 1),
		Ladder: l.ladder, Check: l.check, Film: l.film, Rest: l.rest, Tool: l.tool, How: l.how, Why: l.why, School: l.school, Sheen: l.sheen, Terms: l.terms,
	}
	var area unit.SquareMetre
	for _, zone := range l.zones {
		s.Zones = append(s.Zones, zone.Key)
		area += zone.Area
	}
	_, errLadder := abrasive.LadderOf(l.ladder...)
	errCheck, errSchool := error(nil), error(nil)
	if l.check != "" {
		_, errCheck = check.Find(l.check)
	}
	if l.school != "" {
		_, errSchool = FindSchool(l.school)
	}
	if err := errors.Join(errLadder, errCheck, errSchool); err != nil {
		return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
	}
	if l.fixed > 0 {
		s.Minutes = l.fixed
		return s, nil
	}
	rate, err := l.rate()
	if err != nil {
		return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
	}
	s.Minutes, _ = rate.Minutes(area, max(len(l.ladder), 1))
	if l.kind == schedule.Coat && l.method != "" {
		s.SetUp = unit.Minutes(rate.SetUp)
		scuff, err := labour.Find("scuff", "")
		if err != nil {
			return Step{}, fmt.Errorf("slot %s: %w", s.Slot, err)
		}
		s.Scuff, _ = scuff.Minutes(area, 1)
	}
	return s, nil
}

func (l line) rate() (labour.Rate, error) {
	work := l.work
	if work == "" {
		work = string(l.kind)
		if l.kind == schedule.Sand {
			work = "sand-bare"
		}
	}
	return labour.Find(work, string(l.method))
}

// headstock is the area of both faces of a usual headstock (default), until it
// is measured.
const headstock unit.SquareMetre = 0.022

func zoneNames(kind PieceKind) []string {
	if kind == Neck {
		return []string{"shaft", "headstock"}
	}
	return []string{"top", "back", "sides"}
}

// zonesOf are the zones of a body or a neck, with their areas and what was wished
// of each.
func (c *composing) zonesOf(p *PieceWish) []Zone {
	size := func(entered string) unit.Millimetre {
		length, _ := unit.ParseLength(entered) // checked
		return length
	}
	length, width, thickness := size(p.Length), size(p.Width), size(p.Thickness)
	areas := map[string]unit.SquareMetre{"headstock": headstock}
	if p.Kind == Neck {
		areas["shaft"] = mix.Shaft(length, width)
	} else {
		areas["top"], areas["back"], areas["sides"] = mix.Face(length, width), mix.Face(length, width), mix.Rim(length, width, thickness)
	}
	names := zoneNames(p.Kind)
	if p.Kind == Neck && c.wish.boardUnderFilm() {
		names, areas["fretboard"] = append(names, "fretboard"), boardArea(length, width)
	}
	var zones []Zone
	for _, name := range names {
		z := Zone{Key: key(p.Kind, name), Name: name, Wood: p.Wood, Area: areas[name], Sheen: p.Sheen}
		for _, wish := range p.Zones {
			if wish.Name == name {
				z.Wood, z.Sheen, z.Plain = or(wish.Wood, p.Wood), or(wish.Sheen, p.Sheen), wish.Plain
			}
		}
		zones = append(zones, z)
	}
	return zones
}

// boardArea is the face of a fretboard: about three quarters of the neck's length,
// slightly wider than the nut.
func boardArea(length, width unit.Millimetre) unit.SquareMetre {
	return unit.SquareMetre(0.75 * float64(length) * 1.08 * float64(width) / 1e6)
}

func timberOf(z Zone) wood.Wood {
	w, _ := wood.Find(z.Wood) // checked
	return w
}

// only are the zones that something holds of.
func only(zones []Zone, holds func(Zone) bool) []Zone {
	return slices.DeleteFunc(slices.Clone(zones), func(z Zone) bool { return !holds(z) })
}

// mustFamily is a family that the rules name; TestRulesNameWhatIsThere proves it.
func mustFamily(id string) material.Family {
	f, err := material.FindFamily(id)
	if err != nil {
		panic(err)
	}
	return f
}

func upperFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// papers are FEPA marks as keys.
func papers(marks ...int) []string {
	keys := make([]string, len(marks))
	for i, m := range marks {
		keys[i] = fmt.Sprintf("fepa:P%d", m)
	}
	return keys
}

// upTo is the part of a ladder of FEPA papers from one mark to another.
func upTo(from, stop int, marks ...int) []string {
	return papers(slices.DeleteFunc(slices.Clone(marks), func(m int) bool { return m < from || m > stop })...)
}

package recipe

import (
	_ "embed"
	"fmt"
	"maps"
	"slices"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/table"
	"umberfrost/internal/craft/unit"
)

// School is one of several accepted ways of doing the same thing: a row of
// schools.csv.
type School struct {
	Topic      string `json:"topic"`
	Option     string `json:"option"`
	Question   string `json:"question" doc:"what is disagreed about"`
	Way        string `json:"way" doc:"what this school does"`
	Who        string `json:"who"`
	For        string `json:"for"`
	Against    string `json:"against"`
	ChooseWhen string `json:"chooseWhen"`
}

//go:embed schools.csv
var schoolRows string

var schools, schoolError = parseSchools(schoolRows)

// Check reports what is wrong with the embedded table, for a start-up check.
func Check() error { return schoolError }

// SchoolsOf lists the schools of a topic, in the order of the table.
func SchoolsOf(topic string) []School {
	var list []School
	for _, s := range schools {
		if s.Topic == topic {
			list = append(list, s)
		}
	}
	return list
}

// FindSchool returns one school, named "topic/option" as steps name theirs.
func FindSchool(name string) (School, error) {
	for _, s := range schools {
		if s.Topic+"/"+s.Option == name {
			return s, nil
		}
	}
	return School{}, fmt.Errorf("there is no school %q", name)
}

func parseSchools(text string) ([]School, error) {
	var list []School
	seen := make(map[string]bool)
	err := table.Read("schools", text, func(r table.Row) {
		s := School{Topic: r.Needed("topic"), Option: r.Needed("option"), Question: r.Needed("question"), Way: r.Needed("way"),
			Who: r.Needed("who"),
			For: r.Needed("for"), Against: r.Needed("against"), ChooseWhen: r.Needed("choose_when")}
		if name := s.Topic + "/" + s.Option; seen[name] {
			r.Complain("option", "listed once for its topic")
		} else {
			seen[name] = true
		}
		list = append(list, s)
	})
	return list, err
}

// topic is a choice between schools.
type topic struct {
	id    string
	whole bool // of the instrument, not of a piece
}

// topics in the order in which they come up in the work. The board's topic is
// the choice of its finish, and the margin's a setting of the shop.
var topics = []topic{
	{"joining", true}, {"holes", true}, {"grain", false}, {"figure", false}, {"colour-as", false}, {"colour-on", false}, {"burst", false},
	{"pores", false}, {"fill-with", false}, {"fill-order", false}, {"method", false}, {"build", false}, {"flatting", false},
	{"cure-by", false}, {"levelling", false}, {"pads", false}, {"shine", false},
}

func findTopic(id string) (topic, bool) {
	for _, t := range topics {
		if t.id == id {
			return t, true
		}
	}
	return topic{}, false
}

// stands reports whether a topic is open in a wish, of a piece where it is one of
// a piece.
func stands(id string, w *Wish, p *PieceWish) bool {
	switch id {
	case "joining":
		return w.Joint == "set" && w.piece(Body) != nil && w.piece(Neck) != nil
	case "holes":
		return w.piece(Body) != nil
	case "method":
		return true
	case "grain":
		return p.drinks() && p.watered() && !p.charred()
	case "figure":
		return p.drinks() && slices.Contains([]string{"natural", "one-colour", "grain-colour"}, p.Look) && builds(p.family())
	case "colour-as":
		return p.Look == "grain-colour" || (p.Look == "one-colour" && !p.toned())
	case "colour-on":
		return p.Look == "one-colour" && builds(p.family())
	case "burst":
		return p.Look == "burst" && p.drinks()
	case "pores":
		return p.openPored() && !p.charred() && (builds(p.family()) || !p.coloured())
	case "fill-with":
		return stands("pores", w, p) && p.way("pores") != "open" && builds(p.family())
	case "fill-order":
		return p.fills() && slices.Contains([]string{"one-colour", "grain-colour", "burst"}, p.Look) && builds(p.family()) && !p.toned()
	case "build":
		return builds(p.family())
	case "flatting":
		return p.dulls() && builds(p.family()) && p.family().ID != "shellac"
	case "pads":
		return p.dulls() && !p.flatted()
	case "shine":
		return p.shines() && builds(p.family())
	}
	return p.rubsOut() // cure-by, levelling
}

// usual is what is done in a topic where nobody has chosen: the cautious way.
func usual(id string, w *Wish, p *PieceWish) string {
	switch id {
	case "joining":
		return "apart"
	case "holes":
		return "before"
	case "grain":
		return "wet"
	case "figure":
		if p.Look == "grain-colour" {
			return "dark"
		}
		return "none"
	case "colour-as":
		if p.Look == "grain-colour" && builds(p.family()) {
			return "bound" // it goes over the washcoat that keeps the dark colour in the grain
		}
		return "dye"
	case "colour-on":
		if p.timber().BlotchRisk >= 3 {
			return "washcoat"
		}
		return "bare"
	case "burst":
		if p.sprays() {
			return "spray"
		}
		return "rub"
	case "pores":
		switch {
		case !stands("pores", w, p):
			return "open"
		case p.Sheen == "gloss" && builds(p.family()), p.Look == "solid", p.Look == "flake":
			return "full"
		case p.Look == "grain-colour" && p.Sheen == "satin":
			return "half"
		}
		return "open"
	case "fill-with":
		return "filler"
	case "fill-order":
		if p.Look == "grain-colour" {
			return "tinted"
		}
		return "after"
	case "method":
		return string(p.family().Methods[0])
	case "build":
		if p.shines() || w.Hand == "new" {
			return "margin"
		}
		return "few"
	case "flatting":
		if p.Sheen == "matte" && p.sprays() {
			return "can"
		}
		return "rub"
	case "cure-by":
		return "calendar"
	case "levelling":
		return "dry"
	case "pads":
		return "synthetic"
	}
	if p.heatSoft() {
		return "papers"
	}
	return "compounds"
}

// way is the school of the whole instrument in a topic: as chosen, or as is usual.
func (w *Wish) way(id string) string {
	if chosen := w.Ways[id]; chosen != "" {
		return chosen
	}
	return usual(id, w, nil)
}

// way is the school of a piece in a topic: as chosen, or as is usual.
func (p *PieceWish) way(id string) string {
	if chosen := p.Ways[id]; chosen != "" {
		return chosen
	}
	return usual(id, p.of, p)
}

// Choice is a topic that stands open in a wish, with the school that is followed.
type Choice struct {
	Topic  string
	Piece  PieceKind // empty: of the whole instrument
	Chosen string
	Usual  bool // nobody has chosen it
	Ways   []School
}

// Choices lists the topics that stand open, in the order of the work.
func (w Wish) Choices() []Choice {
	w = w.ready()
	var list []Choice
	for _, t := range topics {
		if t.whole {
			if stands(t.id, &w, nil) {
				list = append(list, Choice{t.id, "", w.way(t.id), w.Ways[t.id] == "", SchoolsOf(t.id)})
			}
			continue
		}
		for i := range w.Pieces {
			if p := &w.Pieces[i]; p.known() && stands(t.id, &w, p) {
				c := Choice{t.id, p.Kind, p.way(t.id), p.Ways[t.id] == "", nil}
				for _, s := range SchoolsOf(t.id) {
					if p.can(s) {
						c.Ways = append(c.Ways, s)
					}
				}
				list = append(list, c)
			}
		}
	}
	return list
}

// can reports whether a school can be followed with what else was chosen.
func (p *PieceWish) can(s School) bool {
	switch s.Topic {
	case "method":
		return slices.Contains(p.family().Methods, material.Method(s.Option))
	case "figure":
		return (s.Option == "dark") != (p.Look == "natural") || s.Option == "none"
	case "colour-on":
		return s.Option != "toner" || p.sprays()
	case "burst":
		return s.Option != "spray" || p.sprays()
	case "colour-as":
		return s.Option != "bound" || builds(p.family())
	case "fill-with":
		return s.Option != "clear" || p.fineEnough()
	}
	return true
}

// fineEnough reports whether its pores are level with clear alone in few coats:
// shallow ones, or a resin that builds fast.
func (p *PieceWish) fineEnough() bool {
	deepest := unit.Micron(0)
	for _, w := range p.timbers() {
		deepest = max(deepest, w.PoreDepth)
	}
	return deepest <= 95 || p.family().TargetLeast >= 150
}

// toned reports whether the colour is in coats above the sealer only.
func (p *PieceWish) toned() bool {
	return p.Look == "one-colour" && builds(p.family()) && p.way("colour-on") == "toner"
}

// With is the wish with one school chosen. A piece is named where the topic is one
// of a piece.
func (w Wish) With(topic string, piece PieceKind, option string) Wish {
	if piece == "" {
		w.Ways = maps.Clone(w.Ways)
		if w.Ways == nil {
			w.Ways = make(map[string]string)
		}
		w.Ways[topic] = option
		return w
	}
	w.Pieces = slices.Clone(w.Pieces)
	for i := range w.Pieces {
		if p := &w.Pieces[i]; p.Kind == piece {
			ways := maps.Clone(p.Ways)
			if ways == nil {
				ways = make(map[string]string)
			}
			if topic == "figure" && or(p.Look, "natural") != "natural" { // what the look says already
				p.Look = map[string]string{"dark": "grain-colour", "none": "one-colour"}[option]
				continue
			}
			ways[topic] = option
			p.Ways = ways
		}
	}
	return w
}

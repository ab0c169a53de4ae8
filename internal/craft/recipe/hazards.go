package recipe

import (
	"regexp"
	"slices"
	"strings"

	"umberfrost/internal/craft/caution"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/part"
	"umberfrost/internal/craft/wood"
)

// works are the kinds of work, as the cautions name them, that steps are by their role; a role not named here
// is what its kind says.
var works = map[string]caution.Facts{
	"accents": {"step_kind": "char", "tool": "torch"}, "cold": {"step_kind": "watch"}, "strew": {"step_kind": "sprinkle"},
	"mix":  {"step_kind": "mix"},
	"pour": {"step_kind": "pour"}, "lay-cloth": {"step_kind": "coat", "material": "fibre-cloth"}, "fret-level": {"step_kind": "fret-level"},
	"fret-crown": {"step_kind": "fret-crown"}, "fret-ends": {"step_kind": "file-metal"}, "fret-polish": {"step_kind": "fret-polish"},
	"frets-in": {"step_kind": "file-metal"}, "last-polish": {"step_kind": "fret-polish"},
	"degrease": {"step_kind": "wipe", "material": "alcohol"},
	"cut":      {"step_kind": "rout"}, "drill": {"step_kind": "drill"}, "drill-after": {"step_kind": "drill"},
	"inserts": {"step_kind": "drill"},
	"stencil": {"step_kind": "tape", "tool": "stencil-knife"}, "mask": {"step_kind": "tape", "tool": "knife"},
	"strip": {"step_kind": "strip"},
}

// agents are what darkens metal, as the cautions name it.
var agents = map[string]string{"ammonia-vapour": "ammonia", "weak-acid": "vinegar-peroxide", "salt-weak-acid": "vinegar-peroxide",
	"sulphide":    "liver-of-sulphur",
	"weak-alkali": "ammonia"}

// dusts are what plastics are, as the cautions name them.
var dusts = map[string]string{"abs-part": "abs", "acrylic-part": "acrylic-sheet", "polycarbonate-part": "polycarbonate",
	"vinyl-plate":    "vinyl",
	"celluloid-part": "celluloid", "nylon-part": "nylon", "acetal-part": "acetal"}

// Hazards are facts about a step that bring cautions beside those of its kind and its materials: what it is by its
// role, what its regions are made of and how they came.
func Hazards(in *Instrument, piece *job.Piece, s *job.Step) []caution.Facts {
	name := s.Slot[strings.LastIndex(s.Slot, ":")+1:]
	work, known := works[name]
	if !known {
		work, known = works[number.ReplaceAllString(name, "")]
	}
	if at := strings.Index(name, "-"); !known && at > 0 { // strip-oak-white, cut-bevel
		work, known = works[name[:at]]
	}
	kind := string(s.Kind)
	var sets []caution.Facts
	if known {
		sets, kind = append(sets, withFamily(work, s.Family)), work["step_kind"].(string)
	}
	for _, made := range substrates(piece, s) {
		sets = append(sets, caution.Facts{"step_kind": kind, "substrate": made})
	}
	if in.Wish == nil {
		return sets
	}
	for _, found := range in.Wish.foundOn(piece, s) {
		facts := caution.Facts{"step_kind": kind, "surface_found": found}
		if strings.HasPrefix(found, "old-") || found == "polished-silicone" || found == "smoke-grime" {
			facts["old_finish"] = "unknown"
		}
		sets = append(sets, facts)
	}
	return append(sets, in.Wish.partHazards(piece.Kind, name)...)
}

func withFamily(facts caution.Facts, family string) caution.Facts {
	all := caution.Facts{}
	for fact, value := range facts {
		all[fact] = value
	}
	if family != "" {
		all["family"] = family
	}
	return all
}

// substrates are what the regions of a step are made of, where that is no wood.
func substrates(piece *job.Piece, s *job.Step) []string {
	var list []string
	ids := piece.RegionsOf(s)
	for _, z := range piece.Regions {
		timber, err := wood.Find(z.Wood)
		if err == nil && !timber.Drinks() && slices.Contains(ids, z.ID) && !slices.Contains(list, string(timber.Substrate)) {
			list = append(list, string(timber.Substrate))
		}
	}
	return list
}

// foundOn is how the regions of a step came.
func (w *Wish) foundOn(piece *job.Piece, s *job.Step) []string {
	p := w.piece(piece.Kind)
	if p == nil || !s.Kind.Handwork() && s.Kind != job.Inspect {
		return nil
	}
	var list []string
	ids := piece.RegionsOf(s)
	for _, z := range piece.Regions {
		if found := or(p.region(z.Name).Found, p.Found); found != "" && slices.Contains(ids, z.ID) && !slices.Contains(list, found) {
			list = append(list, found)
		}
	}
	return list
}

// partHazards are those of small parts.
func (w *Wish) partHazards(kind PieceKind, name string) []caution.Facts {
	for _, p := range w.Parts {
		if p.Kind != kind {
			continue
		}
		switch m, err := part.FindMetal(p.Of); {
		case kind == Plastics:
			return []caution.Facts{{"step_kind": map[string]string{"dull": "sand", "stain": "coat"}[name], "substrate": "plastic",
				"material": dusts[p.Of]}}
		case err != nil || kind != Hardware:
		case name == "etch" || name == "neutralise":
			return []caution.Facts{{"step_kind": "age-metal", "material": agents[m.Agent], "substrate": metalKind(m)}}
		case name == "strip":
			return []caution.Facts{{"step_kind": "strip", "material": "lacquer-thinner", "substrate": metalKind(m)}}
		case name == "brush":
			return []caution.Facts{{"step_kind": "file-metal"}, {"step_kind": "sand", "substrate": metalKind(m)}}
		}
	}
	return nil
}

func metalKind(m part.Metal) string {
	if m.Kind == "plated" {
		return "plated-metal"
	}
	return "metal"
}

// number is what is put behind a slot that was taken.
var number = regexp.MustCompile(`-\d+$`)

package film

import (
	"fmt"
	"math"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Region is a kind of place on a piece, by how much of a coat stays on it.
type Region uint8

const (
	Face Region = iota
	Side
	RoundOver
	Arris // a sharp one
)

// Regions lists them from the thickest film to the thinnest.
var Regions = []Region{Face, Side, RoundOver, Arris}

// String names the region.
func (r Region) String() string {
	return [...]string{"faces", "sides", "round-overs", "sharp edges"}[r]
}

// Share is how much of a face's film a region gets (default). Rules §3.
func (r Region) Share() float64 { return [...]float64{1, 0.9, 0.65, 0.45}[r] }

// Hand is whose hand levels.
type Hand uint8

const (
	Practised Hand = iota
	New
)

// edgeFactor is how much more a new hand takes from a round-over than from a face; a
// practised one keeps the block off it (default). Rules §3.
const edgeFactor = 1.5

// What a build must keep, and how likely it may be gone through (default). Rules §3.
const (
	faceRisk  = 0.01
	roundRisk = 0.03
	roundKeep = 0.6 // of the target, on a round-over under a practised hand
)

// The spread of a film and of what levelling takes, one sigma (default). Rules §3.
const (
	filmSpread    = 0.15
	removalSpread = 0.25
)

// Levelling is one going over: a texture, peak to valley, and the ladder that takes it out.
type Levelling struct {
	Texture unit.Micron
	Ladder  abrasive.Ladder
}

// Build is how a clear is built up: the dry film that a coat leaves on a face, how
// much of it settles, what a scuff between two coats takes, and the levellings in order,
// the last of them at the end.
type Build struct {
	Coat       unit.Micron
	Settling   float64
	Scuff      unit.Micron // one scratch depth; 0 where the coats hold by themselves
	Levellings []Levelling
	Hand       Hand
}

// Film is what lies on a region before the last levelling: so many coats, settled, less
// scuffs and what earlier levellings took. It is never below nothing.
func (b Build) Film(r Region, coats int) unit.Micron {
	film := b.Coat * unit.Micron(float64(coats)*r.Share()*(1-b.Settling))
	film -= b.Scuff * unit.Micron(max(0, coats-1))
	for i := 0; i+1 < len(b.Levellings); i++ {
		film -= b.taken(r, b.Levellings[i])
	}
	return max(0, film)
}

// Removed is what the last levelling takes from a region.
func (b Build) Removed(r Region) unit.Micron {
	if len(b.Levellings) == 0 {
		return 0
	}
	return b.taken(r, b.Levellings[len(b.Levellings)-1])
}

func (b Build) taken(r Region, l Levelling) unit.Micron {
	taken := Removed(l.Texture, l.Ladder)
	if r >= RoundOver && b.Hand == New {
		taken *= edgeFactor
	}
	return taken
}

// Left is what stays on a region in the end; negative where levelling goes through.
func (b Build) Left(r Region, coats int) unit.Micron { return b.Film(r, coats) - b.Removed(r) }

// Risk is the chance of going through a region. That of a sharp edge is shown, and
// does not decide how many coats there are: the block is kept off it.
func (b Build) Risk(r Region, coats int) float64 { return Risk(b.Film(r, coats), b.Removed(r)) }

// Risk is the chance of going through a film by levelling that takes so much on
// average: Φ(−(film − R)/√((0.15·film)² + (0.25·R)²)). No film means 1, nothing removed
// means 0. Rules §3.
func Risk(film, removed unit.Micron) float64 {
	switch {
	case film <= 0:
		return 1
	case removed <= 0:
		return 0
	}
	f, r := float64(film), float64(removed)
	sigma := math.Hypot(filmSpread*f, removalSpread*r)
	return math.Erfc((f-r)/sigma/math.Sqrt2) / 2
}

// MostCoats is the most that is looked at.
const MostCoats = 50

// Needed is the smallest number of coats with which every face and side keeps the
// target with a risk under 1 %, and every round-over 60 % of it with a risk under 3 % (all of
// it and 1 % under a new hand). False where not even MostCoats do. Rules §3.
func (b Build) Needed(target unit.Micron) (int, bool) {
	return b.needed(func(coats int) bool { return b.keeps(target, coats) })
}

func (b Build) keeps(target unit.Micron, coats int) bool {
	round, risk := target*roundKeep, roundRisk
	if b.Hand == New {
		round, risk = target, faceRisk
	}
	for _, r := range []Region{Face, Side} {
		if b.Left(r, coats) < target || b.Risk(r, coats) >= faceRisk {
			return false
		}
	}
	return b.Left(RoundOver, coats) >= round && b.Risk(RoundOver, coats) < risk
}

// ShowNeeded is Needed with its working.
func (b Build) ShowNeeded(target unit.Micron) (int, working.Working) {
	coats, _ := b.Needed(target)
	hand := map[Hand]string{Practised: "practised", New: "new"}[b.Hand]
	inputs := []working.Input{
		{Name: "one coat on a face, dry", Value: b.Coat.String(), Source: working.Family},
		{Name: "settles by", Value: fmt.Sprintf("%.0f %%", b.Settling*100), Source: working.Rule},
		{Name: "target", Value: target.String(), Source: working.Family},
		{Name: "hand", Value: hand, Source: working.Person},
	}
	for _, r := range Regions {
		inputs = append(inputs, working.Input{Name: "left on " + r.String(), Source: working.Rule,
			Value: fmt.Sprintf("about %s, risk %s", max(0, b.Left(r, coats)).String(), riskText(b.Risk(r, coats)))})
	}
	return coats, working.New("Coats",
		"the fewest that keep the target on faces and sides, and enough of it on round-overs, after levelling",
		fmt.Sprintf("%d coats", coats), inputs...)
}

func riskText(risk float64) string {
	switch {
	case risk < 0.001:
		return "under 0.1 %"
	case risk < 0.1:
		return fmt.Sprintf("%.1f %%", risk*100)
	}
	return fmt.Sprintf("%.0f %%", risk*100)
}

// Way is a way out where more coats are needed than are usual.
type Way struct {
	Text  string
	Coats int
}

// softEdge is the share of a round-over that has been made rounder (default).
const softEdge = 0.8

// WaysOut are other ways to come by the target with fewer coats than so many: each
// alone, in words, the fewest coats first named where it needs them.
func (b Build) WaysOut(target unit.Micron, coats int) []Way {
	var ways []Way
	offer := func(text string, other int, found bool) {
		if found && other < coats {
			ways = append(ways, Way{text, other})
		}
	}
	if last := len(b.Levellings) - 1; last >= 0 && len(b.Levellings[last].Ladder) > 1 {
		finer := b.with(last, b.Levellings[last].Ladder[1:])
		n, found := finer.Needed(target)
		offer("a finer start, at "+b.Levellings[last].Ladder[1].String(), n, found)
	}
	if len(b.Levellings) > 1 {
		once := b
		once.Levellings = b.Levellings[len(b.Levellings)-1:]
		n, found := once.Needed(target)
		offer("no levelling part of the way", n, found)
	}
	n, found := b.neededSoft(target)
	offer("a softer edge", n, found)
	risky := b
	risky.Hand = Practised
	n, found = risky.needed(func(coats int) bool {
		return risky.Left(Face, coats) >= target && risky.Left(RoundOver, coats) > 0
	})
	offer("accepting the risk on the edges", n, found)
	return ways
}

func (b Build) with(at int, ladder abrasive.Ladder) Build {
	levellings := append([]Levelling(nil), b.Levellings...)
	levellings[at].Ladder = ladder
	b.Levellings = levellings
	return b
}

// neededSoft is Needed where round-overs are soft enough to hold more of a coat.
func (b Build) neededSoft(target unit.Micron) (int, bool) {
	round := target * roundKeep
	if b.Hand == New {
		round = target
	}
	return b.needed(func(coats int) bool {
		soft := b.Film(RoundOver, coats) + b.Coat*unit.Micron(float64(coats)*(softEdge-RoundOver.Share())*(1-b.Settling))
		return b.Left(Side, coats) >= target && b.Risk(Side, coats) < faceRisk && soft-b.Removed(RoundOver) >= round &&
			Risk(soft, b.Removed(RoundOver)) < faceRisk
	})
}

func (b Build) needed(enough func(coats int) bool) (int, bool) {
	for coats := 1; coats <= MostCoats; coats++ {
		if enough(coats) {
			return coats, true
		}
	}
	return MostCoats, false
}

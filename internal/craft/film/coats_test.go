package film

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/proptest"
)

func ladder(t require.TestingT, keys ...string) abrasive.Ladder {
	l, err := abrasive.LadderOf(keys...)
	require.NoError(t, err)
	return l
}

// sprayed is a family sprayed, levelled part of the way with P600 and to P2000 for gloss.
func sprayed(t *testing.T, id string, hand Hand) (Build, unit.Micron) {
	f, err := material.FindFamily(id)
	require.NoError(t, err)
	texture := Texture(material.Spray, false)
	return Build{Coat: Dry(f.Wet[material.Spray], f.Solids, f.Thin), Settling: Settling(f.Kinetics), Hand: hand,
		Levellings: []Levelling{{texture, ladder(t, "fepa:P600")},
			{texture, ladder(t, "fepa:P800", "fepa:P1000", "fepa:P1200", "fepa:P1500", "fepa:P2000")}}}, f.TargetLeast
}

func TestWorkedCoatsNeeded(t *testing.T) { // rules.md §3, the worked values
	for id, want := range map[string][2]int{"water-clear": {6, 9}, "nitro": {10, 16}, "urethane-2k": {4, 6}} {
		for hand, coats := range want {
			b, target := sprayed(t, id, Hand(hand))
			got, found := b.Needed(target)
			assert.True(t, found)
			assert.Equal(t, coats, got, "%s, hand %d", id, hand)
		}
	}
}

func TestWorkedFilmRemovalAndRisk(t *testing.T) {
	b := Build{Coat: 25, Settling: 0.04, Scuff: 2, Levellings: []Levelling{{15, ladder(t, "fepa:P600")},
		{15, ladder(t, "fepa:P1000", "compound:fine")}}}
	// interim 15/2 + 1.3·5.7 = 14.91, last 15/2 + 1.3·4 + 1 = 13.7
	for r, want := range map[Region]float64{Face: 144 - 24.91, Side: 129.6 - 24.91, RoundOver: 93.6 - 24.91, Arris: 64.8 - 24.91} {
		assert.InDelta(t, want, float64(b.Film(r, 6)), 1e-9, r.String())
		assert.InDelta(t, 13.7, float64(b.Removed(r)), 1e-9)
		assert.InDelta(t, want-13.7, float64(b.Left(r, 6)), 1e-9)
	}
	b.Hand = New
	assert.InDelta(t, 13.7, float64(b.Removed(Side)), 1e-9)
	assert.InDelta(t, 20.55, float64(b.Removed(RoundOver)), 1e-9, "half as much again")
	assert.InDelta(t, 93.6-10-22.365, float64(b.Film(RoundOver, 6)), 1e-9)

	// (50 − 30)/√(7.5² + 7.5²) = 1.8856: 2.97 %
	assert.InDelta(t, 0.0297, Risk(50, 30), 0.0001)
	assert.InDelta(t, 0.5, Risk(30, 30), 1e-12)
	assert.Equal(t, 1.0, Risk(0, 5))
	assert.Equal(t, 1.0, Risk(-3, 0))
	assert.Equal(t, 0.0, Risk(20, 0))
}

func TestTheRiskDecidesWhereTheTargetIsNothing(t *testing.T) {
	// 20 µm a coat on a round-over, 30 taken. Two coats go through one time in 7 (14.9 %),
	// three in 100 (0.8 %, under 3 %): faces and sides have more.
	b := Build{Coat: 20 / 0.65, Levellings: []Levelling{{60, nil}}}
	n, _ := b.Needed(1)
	assert.Equal(t, 3, n)
	assert.InDelta(t, 0.149, b.Risk(RoundOver, 2), 0.001)
	assert.Less(t, b.Risk(RoundOver, 3), 0.03)
	assert.Greater(t, b.Risk(RoundOver, 3), 0.005)
	// 3.1 % on a round-over is too much for anybody, 2 % for a new hand only.
	b = Build{Coat: 55 / 0.65, Levellings: []Levelling{{unit.Micron(64.6), nil}}}
	assert.InDelta(t, 0.024, b.Risk(RoundOver, 1), 0.006)
	one, _ := b.Needed(1)
	assert.Equal(t, 1, one)
	b.Levellings[0].Texture = 72
	assert.Greater(t, b.Risk(RoundOver, 1), 0.03)
	two, _ := b.Needed(1)
	assert.Equal(t, 2, two)
	// A face or a side wants 1 %.
	b = Build{Coat: 100, Levellings: []Levelling{{100, nil}}}
	assert.Greater(t, b.Risk(Side, 1), 0.01)
	assert.Less(t, b.Risk(Face, 1), 0.01)
}

func TestWaysOut(t *testing.T) {
	b, target := sprayed(t, "nitro", New)
	n, _ := b.Needed(target)
	ways := make(map[string]int)
	for _, w := range b.WaysOut(target, n) {
		ways[w.Text] = w.Coats
		assert.Less(t, w.Coats, n)
	}
	assert.Equal(t, map[string]int{"a finer start, at P1000": 15, "no levelling part of the way": 13, "a softer edge": 13,
		"accepting the risk on the edges": 9}, ways)
	coats, shown := b.ShowNeeded(target)
	assert.Equal(t, n, coats)
	assert.Equal(t, "16 coats", shown.Result)
	_, found := Build{Coat: 0.5, Levellings: b.Levellings}.Needed(target)
	assert.False(t, found, "a trace never builds it")
}

func TestMoreFilmNeverRaisesTheRisk(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		film, removed := rapid.Float64Range(0, 500).Draw(t, "film"), rapid.Float64Range(0, 200).Draw(t, "removed")
		more := film + rapid.Float64Range(0, 200).Draw(t, "more")
		assert.LessOrEqual(t, Risk(unit.Micron(more), unit.Micron(removed)), Risk(unit.Micron(film), unit.Micron(removed))+1e-12)
	})
}

func TestTheRisksThatAreTaken(t *testing.T) {
	// One coat of 100 µm on a face, its risk set by what is taken: a hair's breadth on
	// either side of 1 % on a side, of 3 % and of 1 % on a round-over.
	taking := func(coat, removed float64, hand Hand) int {
		b := Build{Coat: unit.Micron(coat), Hand: hand, Levellings: []Levelling{{unit.Micron(2 * removed), nil}}}
		n, _ := b.Needed(0)
		return n
	}
	assert.Equal(t, 1, taking(100, 39.0, Practised), "65 µm on a round-over, 39.0 taken: 2.97 %")
	assert.InDelta(t, 0.02967, Risk(65, 39.0), 0.00001)
	assert.Equal(t, 2, taking(100, 39.2, Practised), "3.10 %")
	assert.InDelta(t, 0.03100, Risk(65, 39.2), 0.00001)
	assert.Equal(t, 1, taking(100, 23.05, New), "34.575 taken by a new hand: just under 1 %")
	assert.Equal(t, 2, taking(100, 23.2, New), "34.8: just over")
	assert.InDelta(t, 0.01109, Risk(90, 48.5), 0.00001)
	kept := func(coat float64) int { // 60 % of a target of 100 on a round-over is 60
		n, _ := Build{Coat: unit.Micron(coat)}.Needed(100)
		return n
	}
	assert.Equal(t, 2, kept(55.6), "a side wants 100: 1.8 coats")
	assert.Equal(t, 1, kept(111.2), "and a round-over has 72 by then")
	n, found := Build{Coat: 2}.Needed(90)
	assert.True(t, found)
	assert.Equal(t, 50, n, "2 µm a coat, 1.8 on a side: fifty coats are looked at, and just do")
	_, found = Build{Coat: 1.99}.Needed(90)
	assert.False(t, found)
	_, shown := Build{Coat: 40, Settling: 0.08}.ShowNeeded(90)
	assert.Equal(t, "8 %", shown.Inputs[1].Value)
}

func TestARoundOverKeepsThreeFifths(t *testing.T) {
	// What is taken leaves the side 100 and the round-over just above or below 60.
	b := func(removed float64) Build {
		return Build{Coat: 200, Levellings: []Levelling{{unit.Micron(2 * removed), nil}}}
	}
	for removed, want := range map[float64]int{69.9: 1, 70.1: 2} { // 130 − 69.9 = 60.1; sides 180
		n, _ := b(removed).Needed(100)
		if Risk(130, unit.Micron(removed)) < 0.03 {
			assert.Equal(t, want, n, "%g taken", removed)
		}
	}
	assert.Less(t, Risk(130, 69.9), 0.03)
}

package cure

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/craft/material"
)

func waterClear(t require.TestingT, sheet string) material.Material {
	family, err := material.FindFamily("water-clear")
	require.NoError(t, err)
	m, err := material.OfProduct(family, "p", "Ebb Gloss", []byte(sheet))
	require.NoError(t, err)
	return m
}

func TestEarliest(t *testing.T) {
	m := waterClear(t, "")
	assert.Equal(t, 150*time.Minute, Earliest(m, material.Recoat, 1.25).Duration())
	assert.Equal(t, 420*time.Hour, Earliest(m, material.Buff, 1.25).Duration())
	assert.Equal(t, 2*time.Hour, Earliest(m, material.Recoat, 1).Duration())
}

func TestUnknownIsReadCautiously(t *testing.T) {
	family, err := material.FindFamily("water-clear")
	require.NoError(t, err)
	family.Limits = map[material.Milestone]material.Limit{material.FullCure: material.Hours(720)}
	assert.Equal(t, 720*time.Hour, Earliest(material.OfFamily(family), material.Sand, 1).Duration())
}

func TestNever(t *testing.T) {
	wax, err := material.FindFamily("paste-wax")
	require.NoError(t, err)
	assert.True(t, Earliest(material.OfFamily(wax), material.Sand, 1.25).Never)
	assert.False(t, Earliest(material.OfFamily(wax), material.Recoat, 1.25).Never)
}

func TestWaitNeverShrinksWithTheMargin(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		hours := rapid.Float64Range(0, 1000).Draw(t, "hours")
		margin := rapid.Float64Range(1, 3).Draw(t, "margin")
		wait := Earliest(waterClear(t, fmt.Sprintf(`{"limits":{"recoat":%f}}`, hours)), material.Recoat, margin)
		assert.GreaterOrEqual(t, wait.Duration().Hours(), wait.Hours*margin-1e-6)
		assert.Less(t, wait.Duration().Hours(), wait.Hours*margin+1.0/60)
	})
}

func ExampleWait_Working() {
	family, _ := material.FindFamily("water-clear")
	shown := Earliest(material.OfFamily(family), material.Recoat, 1.25).Working()
	fmt.Println(shown.Formula, "=", shown.Result)
	for _, input := range shown.Inputs {
		fmt.Println(input.Name, input.Value, "-", input.Source)
	}
	// Output:
	// hours at 20 °C and 50 % × the shop's margin = 2 h 30 min
	// waterborne clear, dry enough to recoat 2 h - family default
	// margin × 1.25 - this shop's setting
}

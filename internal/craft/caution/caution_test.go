package caution

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func ids(list []Caution) []string {
	names := []string{}
	for _, c := range list {
		names = append(names, c.ID)
	}
	return names
}

func TestFor(t *testing.T) {
	require.NoError(t, Check())
	for name, test := range map[string]struct {
		facts    Facts
		has      []string
		hasNever []string
	}{
		"wiping hard-wax oil": {
			Facts{"family": "hardwax-oil", "kinetics": "oxidative", "step_kind": "coat", "method": "wipe", "voc_class": 2},
			[]string{"oily-rags", "solvent-fire"}, []string{"isocyanate", "wood-dust"}},
		"spraying two-part": {
			Facts{"family": "urethane-2k", "kinetics": "reactive", "step_kind": "coat", "method": "spray"},
			[]string{"isocyanate"}, []string{"oily-rags"}},
		"spraying waterborne": {
			Facts{"family": "water-clear", "kinetics": "waterborne", "step_kind": "coat", "method": "spray"},
			[]string{"spray-mist"}, []string{"isocyanate", "oily-rags"}},
		"sanding a sensitising wood": {
			Facts{"step_kind": "sand", "wood_sensitiser": 3},
			[]string{"wood-dust", "sensitising-wood"}, []string{"filler-dust"}},
		"sanding a harmless wood": {
			Facts{"step_kind": "sand", "wood_sensitiser": 1},
			[]string{"wood-dust"}, []string{"sensitising-wood"}},
		"nothing known": {Facts{}, nil, []string{"isocyanate", "wood-dust", "oily-rags"}},
	} {
		t.Run(name, func(t *testing.T) {
			found := ids(For(test.facts))
			assert.Subset(t, found, test.has)
			for _, not := range test.hasNever {
				assert.NotContains(t, found, not)
			}
		})
	}
}

func TestEveryCautionDefers(t *testing.T) {
	for _, c := range cautions {
		assert.Contains(t, c.Also, "data sheet", c.ID)
		assert.NotContains(t, c.Says, " is safe", c.ID)
	}
}

func TestParseRefuses(t *testing.T) {
	_, err := parse([]byte(`[{id: a, title: A, says: s, also: l, applies_when: {any: [{all: []}]}}]`))
	assert.ErrorContains(t, err, "would always hold")
	_, err = parse([]byte(`[{id: a, title: A, says: s, also: l, applies_when: {any: [{all: [{fact: x, op: "in", value: 3}]}]}}]`))
	assert.ErrorContains(t, err, "cannot read the condition")
	_, err = parse([]byte(`[{id: a, titel: A}]`))
	assert.Error(t, err, "a key that is misspelt")
}

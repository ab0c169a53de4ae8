package job

import (
	"encoding/json"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHandwork(t *testing.T) {
	var spread []Kind
	for _, k := range Kinds {
		if k.Handwork() {
			spread = append(spread, k)
		}
	}
	assert.Equal(t, []Kind{Sand, Scuff, Level, Buff}, spread, "a coat, a check or a gate is done in one go")
	assert.Len(t, Kinds, 9)
}

// A step is written as the schedule file has it: its terms beside the rest, and nothing that is not said.
func TestAStepAsTheScheduleFileHasIt(t *testing.T) {
	step := Step{ID: uuid.MustParse("00000000-0000-0000-0000-000000000001"), Kind: Sand, Title: "Blaß schleifen", HandsOnMin: 90,
		NoReturn: true, Terms: Terms{Divide: &Divide{LeastMin: 30}}}
	data, err := json.Marshal(step)
	require.NoError(t, err)
	assert.JSONEq(t, `{"id": "00000000-0000-0000-0000-000000000001", "kind": "sand", "title": "Blaß schleifen", "handsOnMin": 90, "noReturn": true, "divide": {"leastMin": 30}}`, string(data))
	var again Step
	require.NoError(t, json.Unmarshal(data, &again))
	assert.Equal(t, step, again)
}

package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const examples = "../../docs/formats/examples/"

func run(t *testing.T, stdin string, args ...string) (string, error) {
	t.Helper()
	cmd := planCommand()
	var out bytes.Buffer
	cmd.SetOut(&out)
	cmd.SetErr(&out)
	cmd.SetIn(strings.NewReader(stdin))
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	cmd.SetArgs(args)
	err := cmd.Execute()
	return out.String(), err
}

func TestPlanPrintsATableAndJSON(t *testing.T) {
	table, err := run(t, "", examples+"two-people-and-a-booth.json")
	require.NoError(t, err)
	assert.Contains(t, table, "no order could be less than 3 days late")
	assert.Contains(t, table, "Shares the set-up of Knot body")

	text, err := run(t, "", "--json", "--propose", "--chance", "5", examples+"two-people-and-a-booth.json")
	require.NoError(t, err)
	var r report
	require.NoError(t, json.Unmarshal([]byte(text), &r))
	assert.Len(t, r.Instruments, 2)
	assert.NotNil(t, r.Proposal)
	assert.NotNil(t, r.Instruments[0].ChancePct)
	assert.NotEmpty(t, r.Events[0].Because)
}

func TestPlanTakesAnotherPresentAndStandardInput(t *testing.T) {
	data, err := os.ReadFile(examples + "evenings-in-a-garage.json")
	require.NoError(t, err)
	text, err := run(t, string(data), "--now", "2026-03-20T12:00:00Z", "-")
	require.NoError(t, err)
	assert.Contains(t, text, "Fri 20 Mar 12:00, Europe/Dublin")
}

func TestWhatIfComparesTwoFiles(t *testing.T) {
	data, err := os.ReadFile(examples + "evenings-in-a-garage.json")
	require.NoError(t, err)
	other := filepath.Join(t.TempDir(), "warmer.json")
	require.NoError(t, os.WriteFile(other, bytes.Replace(data, []byte(`"temperatureC": 19`), []byte(`"temperatureC": 26`), -1), 0o600))
	text, err := run(t, "", "--what-if", other, examples+"evenings-in-a-garage.json")
	require.NoError(t, err)
	assert.Contains(t, text, "What if:\n  Stint:")
}

func TestBadInputEndsWithTwoAndItsPlace(t *testing.T) {
	for name, test := range map[string]struct {
		stdin string
		args  []string
		want  string
	}{
		"no such file":   {"", []string{"nowhere.json"}, "nowhere.json"},
		"not JSON":       {"{", []string{"-"}, "it is not JSON"},
		"a missing part": {`{"format":"umberfrost-schedule","version":1,"instruments":[]}`, []string{"-"}, "/: missing property 'shop'"},
		"a bad present":  {`{}`, []string{"--now", "noon", examples + "evenings-in-a-garage.json"}, "--now \"noon\" is not a time"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := run(t, test.stdin, test.args...)
			require.ErrorContains(t, err, test.want)
			assert.Equal(t, 2, exitCode(err))
		})
	}
}

package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	published "umberfrost/docs/formats"
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

// planned is a plan as JSON, which must be as published.
func planned(t *testing.T, stdin string, args ...string) report {
	t.Helper()
	text, err := run(t, stdin, append([]string{"--json"}, args...)...)
	require.NoError(t, err)
	document, err := jsonschema.UnmarshalJSON(strings.NewReader(string(published.PlanSchema)))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	compiler.AssertFormat()
	require.NoError(t, compiler.AddResource("plan-2.schema.json", document))
	schema, err := compiler.Compile("plan-2.schema.json")
	require.NoError(t, err)
	printed, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(printed))
	assert.NotContains(t, text, "0001-01-01")
	assert.NotContains(t, text, "106751")
	var r report
	require.NoError(t, json.Unmarshal([]byte(text), &r))
	return r
}

func TestThePlanTellsProgramsEverything(t *testing.T) {
	r := planned(t, "", "--propose", "--chance", "5", "--what-if", examples+"two-people-and-a-booth.json",
		examples+"two-people-and-a-booth.json")
	seen := map[string]bool{}
	for _, e := range r.Events {
		assert.NotEmpty(t, e.Regions)
		assert.NotEqual(t, uuid.Nil, e.InstrumentID)
		assert.NotEqual(t, uuid.Nil, e.PieceID)
		assert.NotNil(t, e.PlaceID)
		assert.True(t, e.Done || (e.PersonID != nil && e.Ready != nil && !e.Ready.After(*e.Start)), e.Title)
		seen["pinned"], seen["spans"], seen["shares"] = seen["pinned"] || e.Pinned, seen["spans"] || len(e.Spans) > 1,
			seen["shares"] || e.Shares != nil
	}
	assert.Equal(t, map[string]bool{"pinned": true, "spans": true, "shares": true}, seen)
}

func TestWhatCannotBePlacedIsSaidWithoutDates(t *testing.T) {
	data, err := os.ReadFile(examples + "evenings-in-a-garage.json")
	require.NoError(t, err)
	cold := regexp.MustCompile(`"temperatureC": [0-9.]+`).ReplaceAll(data, []byte(`"temperatureC": 2`))
	r := planned(t, string(cold), "--chance", "5", "-")
	in := r.Instruments[0]
	assert.NotEmpty(t, in.Impossible)
	assert.Nil(t, in.Finish)
	assert.Nil(t, in.SlackHours)
	assert.Nil(t, in.ChancePct, "no chance beside what cannot be placed")
	assert.Nil(t, in.NineInTen)
	for _, e := range r.Events {
		assert.Equal(t, e.Impossible != "", e.Start == nil, e.Title)
	}
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

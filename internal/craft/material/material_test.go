package material

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/working"
)

func TestTablesAreSound(t *testing.T) {
	require.NoError(t, Check())
	assert.Equal(t, 62, len(Families()))
}

func TestABlankIsReadPerColumn(t *testing.T) {
	for _, test := range []struct {
		family    string
		milestone Milestone
		want      Limit
	}{
		{"nitro", RecoatMax, Any},
		{"metal-leaf", Sand, Never},
		{"paste-wax", Topcoat, Never},
		{"board-oil", FullCure, Any},
		{"water-dye", Buff, Never},
		{"water-clear", RecoatMax, Hours(24)},
		{"water-clear", Buff, Hours(336)},
		{"hardwax-oil", Recoat, Hours(24)},
	} {
		t.Run(test.family+" "+string(test.milestone), func(t *testing.T) {
			family, err := FindFamily(test.family)
			require.NoError(t, err)
			assert.Equal(t, test.want, family.Limits[test.milestone])
		})
	}
}

func TestMilestonesComeInOrder(t *testing.T) {
	order := []Milestone{TouchDry, Recoat, FullCure}
	for _, family := range Families() {
		last := 0.0
		for _, milestone := range order {
			hours, isNumber := family.Limits[milestone].Hours()
			if !isNumber {
				assert.Equal(t, "board-oil", family.ID, "only a material without a film lacks %s", milestone)
				continue
			}
			assert.GreaterOrEqual(t, hours, last, "%s %s", family.ID, milestone)
			last = hours
		}
	}
}

func TestSheetBeatsFamily(t *testing.T) {
	family, err := FindFamily("water-clear")
	require.NoError(t, err)
	product, err := OfProduct(family, "p1", "Ebb Gloss", []byte(`{"limits":{"recoat":3,"sand":"unknown"},"coats_per_day":2}`))
	require.NoError(t, err)

	limit, source := product.Limit(Recoat)
	assert.Equal(t, Hours(3), limit)
	assert.Equal(t, working.DataSheet, source)
	limit, source = product.Limit(Sand)
	assert.Equal(t, Hours(4), limit, "an unknown on the sheet falls back on the family")
	assert.Equal(t, working.Family, source)
	assert.Equal(t, 2, product.CoatsPerDay())
	assert.NotEqual(t, product.Key(), OfFamily(family).Key())

	figures := product.Resolve(1.25)
	assert.Equal(t, Figure{Hours(3), working.DataSheet}, figures.Limits[Recoat])
	assert.Equal(t, 1.25, figures.Margin)
}

func TestSheetRefusesNonsense(t *testing.T) {
	family, _ := FindFamily("water-clear")
	for _, sheet := range []string{`{"limits":{"recoat":-1}}`, `{"limits":{"recoat":"soon"}}`, `{"limits":{"tuesday":3}}`, `{`} {
		_, err := OfProduct(family, "p1", "Ebb Gloss", []byte(sheet))
		assert.ErrorContains(t, err, "Ebb Gloss", sheet)
	}
}

func TestLimitSurvivesJSON(t *testing.T) {
	for _, limit := range []Limit{Hours(0), Hours(2.5), Any, Never, Unknown} {
		text, err := json.Marshal(limit)
		require.NoError(t, err)
		var back Limit
		require.NoError(t, json.Unmarshal(text, &back))
		assert.Equal(t, limit, back)
	}
	assert.Equal(t, "14 days", Hours(336).String())
	assert.Equal(t, "2.5 h", Hours(2.5).String())
}

func TestParseNeedsBothTables(t *testing.T) {
	_, err := parse(familyRows, strings.Join(strings.Split(minuteRows, "\n")[:5], "\n"))
	assert.ErrorContains(t, err, "families_minutes has no row for")
}

func FuzzSheet(f *testing.F) {
	f.Add([]byte(`{"limits":{"recoat":3}}`))
	family, _ := FindFamily("water-clear")
	f.Fuzz(func(t *testing.T, sheet []byte) {
		m, err := OfProduct(family, "p", "p", sheet)
		if err == nil {
			if hours, isNumber := m.sheet.Limits[Recoat].Hours(); isNumber && hours < 0 {
				t.Fatal("a negative wait was accepted")
			}
		}
	})
}

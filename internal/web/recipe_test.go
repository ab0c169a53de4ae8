package web_test

import (
	"testing"

	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/views"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestSchoolsAreComparedOverTheWire(t *testing.T) {
	t.Parallel()
	r := open(t)
	in := curlew()
	var ways views.Ways
	require.Equal(t, 200, r.post("/api/schools", views.SchoolsAsked{Instrument: in, Topic: "shine", Piece: "body"}, &ways))
	require.Len(t, ways.Ways, 2)
	assert.True(t, ways.Ways[0].Chosen)
	layers := ways.Ways[1].Wish.Pieces[0].Layers
	assert.Equal(t, "papers", layers[len(layers)-1].Ways["shine"])
	assert.NotEmpty(t, ways.Ways[1].Finish)

	var wrong problem
	require.Equal(t, 422, r.post("/api/schools", views.SchoolsAsked{Instrument: in, Topic: "astrology"}, &wrong))
	assert.Contains(t, wrong.at("body.topic"), "does not stand open")
	in.Wish.Pieces[0].Wood = "driftwood"
	require.Equal(t, 422, r.post("/api/schools", views.SchoolsAsked{Instrument: in, Topic: "shine", Piece: "body"}, &wrong))
}

func TestAWishIsChangedAndGuardedOverTheWire(t *testing.T) {
	t.Parallel()
	r := open(t)
	wish := *r.instrument.Wish
	wish.Pieces[0] = wish.Pieces[0].Ending("", "satin")
	ask := func(c changes.Change) (problem, int) {
		var wrong problem
		status := r.post("/api/changes", changes.Changes{ID: uuid.New(), PersonID: r.person, Changes: []changes.Change{c}}, &wrong)
		return wrong, status
	}
	change := changes.Change{Kind: "wish", InstrumentID: r.instrument.ID, Wish: &wish, Version: r.instrument.Version}
	_, status := ask(change)
	require.Equal(t, 201, status)
	for name, test := range map[string]struct {
		change            changes.Change
		status            int
		location, message string
	}{
		"a lost update": {change, 409, "", "composed again by somebody else"},
		"no wish":       {changes.Change{Kind: "wish", InstrumentID: r.instrument.ID}, 422, "body.changes[0].wish", "say what is wished"},
		"nothing to mend": {changes.Change{Kind: "mend", InstrumentID: r.instrument.ID, Rule: "no-rest"}, 422, "body.changes[0].rule",
			"no such objection"},
		"nobody's schedule": {changes.Change{Kind: "mend", InstrumentID: uuid.New(), Rule: "no-rest"}, 422, "body.changes[0].instrumentId",
			"instrument of this shop"},
	} {
		t.Run(name, func(t *testing.T) {
			wrong, status := ask(test.change)
			assert.Equal(t, test.status, status)
			if test.location == "" {
				assert.Contains(t, wrong.Detail, test.message)
			} else {
				assert.Contains(t, wrong.at(test.location), test.message)
			}
		})
	}
}

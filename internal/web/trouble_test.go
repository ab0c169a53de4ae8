package web_test

import (
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/store"
)

// What the database has no more of is said, wherever in a change it comes up, and the same goes through later.
func TestADiskThatIsFullIsSaidToBeFull(t *testing.T) {
	t.Parallel()
	url := pgtest.URL(t)
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	defer s.Close()
	r := serve(t, s)
	conn := connected(t, url)
	for _, table := range []string{"request", "log_entry", "forecast_snapshot"} {
		_, err := conn.Exec(t.Context(), `
			create or replace function no_room() returns trigger language plpgsql as $$ begin
				raise exception 'could not extend file' using errcode = 'disk_full'; end $$;
			create trigger no_room before insert on `+table+` for each row execute function no_room()`)
		require.NoError(t, err)
		entry := r.entry("Sand the bare wood", 1)
		entry.ID, entry.Kind, entry.InstrumentID, entry.Note, entry.StepID, entry.Coat = uuid.New(), "note", r.instrument.ID, "ö", uuid.Nil,
			0
		if table == "forecast_snapshot" {
			entry = r.entry("Sand the bare wood", 1)
		}
		var p problem
		assert.Equal(t, 503, r.post("/api/log", entry, &p), table)
		assert.Equal(t, "/problems/full", p.Type, table)
		assert.Contains(t, p.Detail, "disk", table)
		assert.Equal(t, 200, r.get("/api/rack", nil), "what is kept is shown")
		_, err = conn.Exec(t.Context(), `drop trigger no_room on `+table)
		require.NoError(t, err)
		assert.Equal(t, 201, r.post("/api/log", entry, nil), "with room it goes through: %s", table)
	}
}

// Behind a change that takes long, of this server or another, nobody is told that the database is gone.
func TestASlowChangeIsSaidToBeSlow(t *testing.T) {
	t.Parallel()
	url := pgtest.URL(t)
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	defer s.Close()
	r := serve(t, s)
	entries := []changes.Entry{r.entry("Sand the bare wood", 1), r.entry("Sand the bare wood", 1)}
	tx, err := connected(t, url).Begin(t.Context()) // another server on this database, at a long change
	require.NoError(t, err)
	_, err = tx.Exec(t.Context(), `update revision set number = number`)
	require.NoError(t, err)
	var writing sync.WaitGroup
	for _, entry := range entries { // the first waits for the lock, the second for the first
		writing.Go(func() {
			var p problem
			assert.Equal(t, 503, r.post("/api/log", entry, &p))
			assert.Equal(t, "/problems/slow", p.Type, p.Detail)
		})
	}
	writing.Wait()
	assert.Equal(t, 200, r.get("/api/health", nil))
	require.NoError(t, tx.Rollback(t.Context()))
	assert.Equal(t, 201, r.post("/api/log", entries[0], nil))
}

package store_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"reflect"
	"slices"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/workshop"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

var (
	ctx  = context.Background()
	noon = time.Date(2026, 3, 12, 12, 0, 0, 0, time.UTC)
)

// curlew is an instrument of one body with a sanding and three coats.
func curlew() (recipe.Instrument, job.Step) {
	in := recipe.Instrument{Instrument: job.Instrument{ID: uuid.New(), Name: "Curlew", Outline: "two-horned", Promise: calendar.DayOf(noon),
		CreatedAt: noon}}
	piece := job.Piece{ID: uuid.New(), Kind: job.Body, Length: &job.Size{Metres: 0.48, Entered: "48 cm"}}
	for _, name := range []string{"top", "back"} {
		piece.Regions = append(piece.Regions, job.Region{ID: uuid.New(), Name: name, Wood: "ash-swamp", AreaM2: 0.1})
	}
	both := []uuid.UUID{piece.Regions[0].ID, piece.Regions[1].ID}
	sand := job.Step{ID: uuid.New(), Slot: "body:sand", Kind: job.Sand, Title: "Sand", Coats: 1,
		HandsOnMin: 60, Ladder: []string{"fepa:P120", "fepa:P180"}, Regions: both}
	clear := job.Step{ID: uuid.New(), Slot: "body:clear", Kind: job.Coat, Title: "Clear",
		Family: "water-clear", Coats: 3, HandsOnMin: 25, Regions: both, After: []uuid.UUID{sand.ID}}
	piece.Steps = []job.Step{sand, clear}
	in.Pieces = []job.Piece{piece}
	return in, clear
}

func seeded(t *testing.T) (*store.Store, recipe.Instrument, job.Step, settings.Person) {
	s := pgtest.Store(t)
	in, clear := curlew()
	who := settings.Person{ID: uuid.New(), Name: "Mara"}
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Shop.People = append(w.Shop.People, who)
		w.Instruments, w.Order = append(w.Instruments, in), append(w.Order, in.Events()...)
	}))
	return s, in, clear, who
}

// keep writes what differs of a shop after a change.
func keep(s *store.Store, change func(*workshop.Workshop)) error {
	return s.Write(ctx, func(tx *store.Tx) error {
		was, err := tx.Workshop(ctx, time.Time{})
		if err != nil {
			return err
		}
		next := was.Clone()
		change(next)
		next.Succeed(was)
		_, err = tx.Keep(ctx, was, next)
		return err
	})
}

// kept is the shop as it is committed.
func kept(t *testing.T, s *store.Store) *workshop.Workshop {
	t.Helper()
	return read(t, s, func(tx *store.Tx) (*workshop.Workshop, error) { return tx.Workshop(ctx, time.Time{}) })
}

// read runs a query on what is committed.
func read[T any](t *testing.T, s *store.Store, do func(*store.Tx) (T, error)) T {
	t.Helper()
	var out T
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) (err error) {
		out, err = do(tx)
		return err
	}))
	return out
}

func entry(in recipe.Instrument, step job.Step, coat int, who settings.Person, seq int64) job.Entry {
	return job.Entry{ID: uuid.Must(uuid.NewV7()), Kind: job.Done, Instrument: in.ID, Step: &step.ID, Coat: &coat,
		HappenedAt: noon, RecordedAt: noon, Person: who.ID, Device: uuid.NameSpaceOID, DeviceSeq: seq}
}

func TestAnInstrumentComesBackWhole(t *testing.T) {
	t.Parallel()
	s, in, clear, _ := seeded(t)
	w := kept(t, s)
	require.Len(t, w.Instruments, 1)
	piece := w.Instruments[0].Pieces[0]
	assert.Equal(t, "2026-03-12", w.Instruments[0].Promise.String())
	assert.Equal(t, "48 cm", piece.Length.Entered)
	assert.Equal(t, []string{"fepa:P120", "fepa:P180"}, piece.Steps[0].Ladder)
	assert.ElementsMatch(t, clear.Regions, piece.Steps[1].Regions)
	assert.Equal(t, clear.After, piece.Steps[1].After)
	assert.Equal(t, []job.Event{{Step: in.Pieces[0].Steps[0].ID, Coat: 1}, {Step: clear.ID, Coat: 1}, {Step: clear.ID, Coat: 2},
		{Step: clear.ID, Coat: 3}}, w.Order)
}

func TestAFailedChangeKeepsNothing(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	before, err := s.Revision(ctx)
	require.NoError(t, err)
	in, _ := curlew()
	in.Pieces[0].Steps[1].Kind = "varnish" // refused by the schema, after much was written
	require.Error(t, keep(s, func(w *workshop.Workshop) { w.Instruments = append(w.Instruments, in) }))
	after, err := s.Revision(ctx)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	assert.Empty(t, kept(t, s).Instruments)
}

func TestOneStandingCompletionPerEvent(t *testing.T) {
	t.Parallel()
	s, in, clear, who := seeded(t)
	first, second := entry(in, clear, 1, who, 1), entry(in, clear, 1, who, 2)
	complete := func(e job.Entry) error {
		return s.Write(ctx, func(tx *store.Tx) error {
			if err := tx.AddEntry(ctx, e); err != nil {
				return err
			}
			return tx.Complete(ctx, e)
		})
	}
	require.NoError(t, complete(first))
	assert.ErrorIs(t, complete(second), store.ErrConflict)
	assert.ErrorIs(t, complete(first), store.ErrConflict, "the same entry twice")

	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		rows, more, err := tx.LogOf(ctx, in.ID)
		assert.False(t, more)
		assert.Len(t, rows, 1, "the refused entry left nothing behind")
		return err
	}))
}

func TestTheLogIsAppendOnly(t *testing.T) {
	t.Parallel()
	s, in, clear, who := seeded(t)
	e := entry(in, clear, 1, who, 1)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.AddEntry(ctx, e) }))
	for _, statement := range []string{`delete from log_entry`, `update log_entry set note = 'changed'`, `delete from step`} {
		_, err := s.Raw().Exec(statement)
		assert.Error(t, err, statement)
	}
}

func TestVoidingUncompletesAndAKeptEntryTakesOver(t *testing.T) {
	t.Parallel()
	s, in, clear, who := seeded(t)
	first, late := entry(in, clear, 1, who, 1), entry(in, clear, 1, who, 2)
	void := job.Entry{ID: uuid.New(), Kind: job.Void, Instrument: in.ID, Voids: &first.ID, HappenedAt: noon, RecordedAt: noon,
		Person: who.ID, Device: uuid.NameSpaceOID, DeviceSeq: 3}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		require.NoError(t, tx.AddEntry(ctx, first))
		require.NoError(t, tx.Complete(ctx, first))
		require.NoError(t, tx.AddEntry(ctx, late)) // kept beside it, without standing
		require.NoError(t, tx.AddEntry(ctx, void))
		require.NoError(t, tx.Uncomplete(ctx, first.ID))
		return tx.Complete(ctx, late)
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		facts, spoken, err := tx.Facts(ctx)
		require.NoError(t, err)
		require.Len(t, facts, 1, "the struck one is not among them")
		assert.Equal(t, late.ID, facts[0].ID)
		assert.Equal(t, []uuid.UUID{clear.ID}, spoken)
		rows, more, err := tx.LogOf(ctx, in.ID)
		assert.False(t, more)
		require.NoError(t, err)
		for _, row := range rows {
			assert.Equal(t, row.ID == first.ID, row.VoidedBy != nil, "only the voided entry is struck")
		}
		return nil
	}))
}

func TestSettingsAndSheetsAreEffectiveDated(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	sheet := material.SheetVersion{ValidFrom: noon, Sheet: json.RawMessage(`{"coats_per_day":2}`)}
	paint := material.Product{ID: uuid.New(), Name: "Ebb Gloss", Family: "water-clear", Versions: []material.SheetVersion{sheet}}
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		for i, margin := range []float64{1.25, 1.5} {
			w.Shop.Settings = append(w.Shop.Settings,
				settings.Setting{ValidFrom: noon.AddDate(0, i, 0), Name: "Room", TimeZone: "Europe/Berlin", Margin: margin})
		}
		w.Products = append(w.Products, paint)
	}))
	w := kept(t, s)
	require.Len(t, w.Shop.Settings, 2)
	assert.Equal(t, 1.25, w.Shop.Settings[0].Margin)
	assert.Equal(t, noon.AddDate(0, 1, 0), w.Shop.Settings[1].ValidFrom)
	require.Len(t, w.Products, 1)
	assert.JSONEq(t, string(sheet.Sheet), string(w.Products[0].Versions[0].Sheet))
	assert.Equal(t, noon, w.Products[0].Versions[0].ValidFrom)

	sheet.ValidFrom = noon.AddDate(0, 1, 0)
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Products = slices.Clone(w.Products)
		w.Products[0].Versions = append(slices.Clone(w.Products[0].Versions), sheet)
	}))
	assert.Len(t, kept(t, s).Products[0].Versions, 2, "a newer sheet beside the one before")
}

func TestUnreachableDatabaseIsUnavailable(t *testing.T) {
	t.Parallel()
	_, err := store.Open(ctx, "postgres://nobody:x@127.0.0.1:1/nothing?sslmode=disable")
	assert.ErrorIs(t, err, store.ErrUnavailable)
}

func TestAListThatIsTooLongIsNotCutOff(t *testing.T) {
	t.Parallel()
	s, _, _, _ := seeded(t)
	require.NoError(t, keep(s, func(w *workshop.Workshop) {
		w.Shop.People = append(w.Shop.People, settings.Person{ID: uuid.New(), Name: "Tobin"})
	}))
	require.NoError(t, s.Read(ctx, func(tx *store.Tx) error {
		two, err := tx.PeopleUpTo(ctx, 2)
		assert.NoError(t, err)
		assert.Len(t, two, 2)
		_, err = tx.PeopleUpTo(ctx, 1)
		assert.ErrorIs(t, err, store.ErrTooMany)
		return nil
	}))
}

func TestEveryFieldOfAStepIsKept(t *testing.T) {
	t.Parallel()
	apart := map[string]bool{"id": true, "slot": true, "version": true, "-": true} // and tables or JSON of their own
	model := reflect.TypeFor[job.Step]()
	for i := range model.NumField() {
		field := model.Field(i)
		column, told := field.Tag.Lookup("db")
		require.True(t, told, "%s needs a db tag", field.Name)
		assert.True(t, apart[column] || slices.Contains(store.StepColumns, column), "%s has no column", field.Name)
	}
}

func TestWhatIsLeftOfATrialIsDropped(t *testing.T) {
	t.Parallel()
	s := pgtest.Store(t)
	count := func() (n int) {
		require.NoError(t, s.Raw().Get(&n, `select count(*) from pg_database where datname like 'umberfrost_trial_%'`))
		return n
	}
	_, err := s.Raw().Exec(`create database umberfrost_trial_0123456789abcdef`)
	require.NoError(t, err)
	assert.Equal(t, 1, count())
	require.NoError(t, s.DropTrials(ctx))
	assert.Zero(t, count())
	require.NoError(t, s.DropTrials(ctx))
}

func TestWhatIsFullIsSaidToBeFull(t *testing.T) {
	t.Parallel()
	for name, test := range map[string]struct {
		err error
		of  string
	}{
		"its disk":              {&pgconn.PgError{Code: "53100", Message: "could not extend file"}, "disk"},
		"its memory":            {&pgconn.PgError{Code: "53200"}, "memory"},
		"its connections":       {&pgconn.PgError{Code: "53300"}, "connections"},
		"a file of its":         {&pgconn.PgError{Code: "58030", Message: "could not write to file: No space left on device"}, "disk"},
		"the disk beside it":    {&os.PathError{Op: "write", Path: "x", Err: syscall.ENOSPC}, "disk"},
		"what somebody may use": {fmt.Errorf("backup: %w", syscall.EDQUOT), "disk"},
	} {
		err := store.Explain(test.err)
		var full *store.Full
		require.ErrorAs(t, err, &full, name)
		assert.Equal(t, test.of, full.Of, name)
		assert.ErrorIs(t, err, store.ErrUnavailable, "the same may go well later: %s", name)
		assert.ErrorIs(t, err, test.err, name)
	}
	var full *store.Full
	assert.False(t, errors.As(store.Explain(&pgconn.PgError{Code: "57014"}), &full), "a statement that took too long is not")
}

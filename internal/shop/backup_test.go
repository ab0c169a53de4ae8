package shop_test

import (
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// blank is a server of a shop that has not begun, at the same present.
func (r *room) blank() *room {
	other := &room{t: r.t, store: pgtest.Store(r.t), now: r.now}
	var err error
	other.service, err = shop.New(other.store, r.service.Now)
	require.NoError(r.t, err)
	return other
}

func (r *room) exported() string {
	file, err := r.service.Export(ctx, nil)
	require.NoError(r.t, err)
	return written(r.t, file)
}

func TestABackupWhilePeopleLogIsRestoredToTheSameBytes(t *testing.T) {
	t.Parallel()
	r, view := busy(t)
	path := filepath.Join(t.TempDir(), "shop.backup")
	var logging sync.WaitGroup
	logging.Go(func() {
		for range 20 {
			r.seq++
			_, err := r.service.Log(ctx, changes.Entry{ID: uuid.New(), Kind: "note", InstrumentID: view.ID, Note: "Knüpfpolitur, 5 µm",
				PersonID: r.person, DeviceID: uuid.NameSpaceURL, DeviceSeq: r.seq})
			assert.NoError(t, err)
		}
	})
	made, err := r.service.Backup(ctx, path)
	require.NoError(t, err)
	logging.Wait()
	assert.Positive(t, made.Bytes)
	_, err = r.service.Backup(ctx, path)
	require.NoError(t, err, "the newer one takes its place")
	before := r.exported()

	other := r.blank()
	_, err = other.service.Rack(ctx)
	require.ErrorIs(t, err, snapshot.ErrNotBegun)
	require.NoError(t, other.service.Restore(ctx, path))
	assert.Equal(t, before, other.exported())
	first, err := r.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	again, err := other.service.Instrument(ctx, view.ID)
	require.NoError(t, err)
	assert.Equal(t, first, again)
	other.person, other.seq = r.person, r.seq
	other.keep(neck("Knot", "2026-08-01")) // and work goes on
	assert.ErrorIs(t, other.service.Restore(ctx, path), shop.ErrNotEmpty)
}

func TestAShopThatWasServedIsRestoredUnderItsPages(t *testing.T) {
	t.Parallel()
	r, _ := busy(t)
	path := filepath.Join(t.TempDir(), "shop.backup")
	reference, err := r.service.Reference(ctx)
	require.NoError(t, err)
	code, err := r.service.MakeCode(ctx, shop.CodeAsked{Role: access.RoleShop, PersonID: reference.People[0].ID})
	require.NoError(t, err)
	token, device, err := r.service.Pair(ctx, shop.PairAsked{Code: code.Code, Name: "Tablet"})
	require.NoError(t, err)
	known, err := r.service.Known(ctx, token)
	require.NoError(t, err)
	assert.Equal(t, device, known)
	_, err = r.service.Backup(ctx, path)
	require.NoError(t, err)

	other := open(t) // it has decided something already, but nothing is done in it
	rack, err := other.service.Rack(ctx)
	require.NoError(t, err)
	assert.Empty(t, rack.Tags)
	require.NoError(t, other.service.Restore(ctx, path))
	rack, err = other.service.Rack(ctx)
	require.NoError(t, err)
	assert.NotEmpty(t, rack.Tags)
	_, err = other.service.Known(ctx, token)
	assert.ErrorIs(t, err, shop.ErrWithdrawn, "a device may have been withdrawn since the backup was made")
}

func TestWhatIsNoBackupChangesNothing(t *testing.T) {
	t.Parallel()
	r, _ := busy(t)
	folder := t.TempDir()
	good := filepath.Join(folder, "good.backup")
	_, err := r.service.Backup(ctx, good)
	require.NoError(t, err)
	whole, err := os.ReadFile(good)
	require.NoError(t, err)
	other := open(t)
	before := other.exported()
	for name, data := range map[string][]byte{"text": []byte("a shop"), "empty": nil, "half": whole[:len(whole)/2]} {
		path := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(path, data, 0o600))
		assert.ErrorIs(t, other.service.Restore(ctx, path), shop.ErrNoBackup, name)
	}
	assert.Equal(t, before, other.exported())
	_, err = r.service.Backup(ctx, filepath.Join(folder, "nowhere", "shop.backup"))
	assert.Error(t, err)
}

func TestABackupADayIsKeptForFourteenDays(t *testing.T) {
	t.Parallel()
	r, _ := busy(t)
	folder := filepath.Join(t.TempDir(), "backups")
	r.service.KeepBackupsIn(folder)
	require.NoError(t, os.Mkdir(folder, 0o700))
	for days := 1; days <= 15; days++ {
		require.NoError(t, os.WriteFile(filepath.Join(folder, "umberfrost-"+r.now.AddDate(0, 0, -days).Format("2006-01-02")+".backup"),
			[]byte("x"), 0o600))
	}
	require.NoError(t, os.WriteFile(filepath.Join(folder, "before the move.backup"), []byte("x"), 0o600))
	require.NoError(t, r.service.Daily(ctx))
	require.NoError(t, r.service.Daily(ctx), "one a day")
	view, err := r.service.Backups(ctx)
	require.NoError(t, err)
	require.Len(t, view.Kept, 14)
	assert.Equal(t, "umberfrost-"+r.now.Format("2006-01-02")+".backup", view.Kept[0].Name)
	assert.FileExists(t, filepath.Join(folder, "before the move.backup"), "what somebody put there is theirs")
	assert.False(t, view.Empty)
	path, err := r.service.BackupPath(view.Kept[0].Name)
	require.NoError(t, err)
	require.NoError(t, r.blank().service.Restore(ctx, path))
	for _, name := range []string{"../password", "umberfrost-2020-01-01.backup", ""} {
		_, err = r.service.BackupPath(name)
		assert.ErrorIs(t, err, refuse.ErrNotFound, name)
	}
}

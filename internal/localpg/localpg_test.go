package localpg_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/localpg"
	"umberfrost/internal/pgbin"
)

// folder is a place that an unprivileged database user may enter.
func folder(t *testing.T) string {
	dir := t.TempDir()
	require.NoError(t, os.Chmod(filepath.Dir(dir), 0o755))
	return filepath.Join(dir, "data")
}

func TestDataOutlivesTheServer(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	options := localpg.Options{Throwaway: true}
	server, err := localpg.Start(ctx, dir, options)
	require.NoError(t, err)
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""), "one that is there is left alone")
	conn, err := pgx.Connect(ctx, server.URL("shop"))
	require.NoError(t, err)
	_, err = conn.Exec(ctx, `create table coat (n int); insert into coat values (3)`)
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))

	_, err = localpg.Start(ctx, dir, options)
	assert.ErrorIs(t, err, localpg.ErrInUse, "a second start does not disturb the first")

	require.NoError(t, server.Stop())
	require.NoError(t, server.Stop(), "stopping twice is stopping once")
	server, err = localpg.Start(ctx, dir, options)
	require.NoError(t, err)
	defer server.Stop()
	conn, err = pgx.Connect(ctx, server.URL("shop"))
	require.NoError(t, err)
	defer conn.Close(ctx)
	var n int
	require.NoError(t, conn.QueryRow(ctx, `select n from coat`).Scan(&n))
	assert.Equal(t, 3, n)
}

func TestAPrivateFolderIsSaidToBeOne(t *testing.T) {
	if os.Geteuid() != 0 {
		return // only root has to run the server as somebody else
	}
	dir := t.TempDir()
	require.NoError(t, os.Chmod(dir, 0o700))
	_, err := localpg.Start(context.Background(), filepath.Join(dir, "data"), localpg.Options{Throwaway: true})
	assert.ErrorIs(t, err, localpg.ErrUnreachable)
}

func TestALostPasswordIsSetAgain(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	require.NoError(t, server.CreateDatabase(ctx, "shop", ""))
	require.NoError(t, server.Stop())
	require.NoError(t, os.Remove(filepath.Join(dir, "password")))
	server, err = localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	defer server.Stop()
	conn, err := pgx.Connect(ctx, server.URL("shop"))
	require.NoError(t, err, "what was kept is there")
	require.NoError(t, conn.Close(ctx))
}

func TestDataIsServedByTheVersionThatMadeIt(t *testing.T) {
	ctx, dir := context.Background(), folder(t)
	server, err := localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	require.NoError(t, err)
	other, err := localpg.Attach(dir)
	require.NoError(t, err)
	assert.Equal(t, server.URL("shop"), other.URL("shop"), "another process finds it while it runs")
	require.NoError(t, server.Stop())
	_, err = localpg.Attach(dir)
	assert.Error(t, err, "and not when it does not")
	version := filepath.Join(dir, "cluster", "PG_VERSION")
	require.NoError(t, os.WriteFile(version, []byte("8\n"), 0o600))
	_, err = localpg.Start(ctx, dir, localpg.Options{Throwaway: true})
	assert.ErrorIs(t, err, pgbin.ErrOtherVersion)
	kept, err := os.ReadFile(version)
	require.NoError(t, err)
	assert.Equal(t, "8\n", string(kept), "what is kept there is left alone")
}

package main

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/formats"
	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/store"
)

func TestAShopIsNotKeptWhereItWouldBeLost(t *testing.T) {
	kept := func(named string, throwaway bool) (string, error) {
		folder := dataFolder{named, throwaway}
		return folder.path()
	}
	_, err := kept("/tmp/shop", false)
	assert.ErrorContains(t, err, "folder for temporary files (/tmp)")
	assert.Equal(t, 2, exitCode(err))
	_, err = kept(filepath.Join(t.TempDir(), "shop"), false)
	assert.ErrorContains(t, err, "--throwaway")
	dir, err := kept("/tmp/shop", true)
	require.NoError(t, err)
	assert.Equal(t, "/tmp/shop", dir)
	_, err = kept("shop", false)
	assert.ErrorContains(t, err, "inside the program's own files")
	dir, err = kept("/srv/tmp/shop", false)
	require.NoError(t, err)
	assert.Equal(t, "/srv/tmp/shop", dir)

	t.Setenv("XDG_DATA_HOME", "/home/mara/data")
	if os.Geteuid() == 0 {
		assert.Equal(t, "/var/lib/umberfrost", defaultFolder())
	} else {
		assert.Equal(t, "/home/mara/data/umberfrost", defaultFolder())
	}
}

func TestABackupIsRestoredByCommand(t *testing.T) {
	from, to := pgtest.URL(t), pgtest.URL(t)
	s, err := store.Open(context.Background(), from)
	require.NoError(t, err)
	defer s.Close()
	service, err := shop.New(s, time.Now)
	require.NoError(t, err)
	_, err = service.Prepare(context.Background(), shop.Default("Europe/London"), "Mara")
	require.NoError(t, err)
	reference, err := service.Reference(context.Background())
	require.NoError(t, err)
	_, err = service.TypeReading(context.Background(), changes.TypedReading{PlaceID: reference.Places[0].ID, Temperature: "18.6 °C",
		Humidity: "52 %",
		PersonID: reference.People[0].ID})
	require.NoError(t, err)

	path := filepath.Join(t.TempDir(), "mara's shop.backup")
	said, err := saidBy(backupCommand(), "--database-url", from, path)
	require.NoError(t, err)
	assert.Contains(t, said, "It was read back and holds the same.")
	err = execute(restoreCommand(), "--database-url", to, path+".gone")
	assert.Equal(t, 2, exitCode(err))
	require.NoError(t, execute(restoreCommand(), "--database-url", to, path))
	assert.Equal(t, exportedFrom(t, from), exportedFrom(t, to))

	broken := filepath.Join(t.TempDir(), "broken.backup")
	require.NoError(t, os.WriteFile(broken, []byte("PGDMP"), 0o600))
	err = execute(restoreCommand(), "--database-url", pgtest.URL(t), broken)
	assert.Equal(t, 2, exitCode(err))
	assert.ErrorContains(t, err, "no backup of Umberfrost")
}

// exportedFrom is the shop of a database as its schedule file, but for the present.
func exportedFrom(t *testing.T, url string) string {
	t.Helper()
	s, err := store.Open(context.Background(), url)
	require.NoError(t, err)
	defer s.Close()
	service, err := shop.New(s, func() time.Time { return time.Unix(0, 0) })
	require.NoError(t, err)
	file, err := service.Export(context.Background(), nil)
	require.NoError(t, err)
	require.NotEmpty(t, file.Shop.Readings)
	var out bytes.Buffer
	require.NoError(t, formats.Write(&out, file))
	return out.String()
}

func saidBy(cmd *cobra.Command, args ...string) (string, error) {
	var out bytes.Buffer
	cmd.SetOut(&out)
	cmd.SetErr(&out)
	cmd.SetArgs(args)
	err := cmd.Execute()
	return out.String(), err
}

func TestTheVersionNamesItsCommit(t *testing.T) {
	said, err := saidBy(versionCommand())
	require.NoError(t, err)
	assert.Contains(t, said, "commit "+commit)
}

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

	"umberfrost/internal/localpg/pgtest"
	"umberfrost/internal/shop"
	"umberfrost/internal/store"
)

func execute(cmd *cobra.Command, args ...string) error {
	var out bytes.Buffer
	cmd.SetOut(&out)
	cmd.SetErr(&out)
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	cmd.SetArgs(args)
	return cmd.Execute()
}

func TestExportedIsImportedAgain(t *testing.T) {
	from, to := pgtest.URL(t), pgtest.URL(t)
	s, err := store.Open(context.Background(), from)
	require.NoError(t, err)
	defer s.Close()
	service, err := shop.New(s, time.Now)
	require.NoError(t, err)
	_, err = service.Prepare(context.Background(), shop.Default("Europe/London"), "Mara")
	require.NoError(t, err)

	path := filepath.Join(t.TempDir(), "shop.json")
	cmd := exportCommand()
	file, err := os.Create(path)
	require.NoError(t, err)
	cmd.SetOut(file)
	cmd.SetArgs([]string{"--database-url", from})
	require.NoError(t, cmd.Execute())
	require.NoError(t, file.Close())

	err = execute(importCommand(), "--database-url", to, path)
	require.NoError(t, err)
	err = execute(planCommand(), path)
	require.NoError(t, err, "and it can be planned without any database")
}

func TestImportAndExportRefuseNonsense(t *testing.T) {
	bad := filepath.Join(t.TempDir(), "bad.json")
	require.NoError(t, os.WriteFile(bad, []byte(`{"format":"x"}`), 0o600))
	err := execute(importCommand(), "--database-url", "postgres://nobody@127.0.0.1:1/x", bad)
	assert.Equal(t, 2, exitCode(err))
	assert.ErrorContains(t, err, "cannot be accepted")
	err = execute(exportCommand(), "--instrument", "curlew")
	assert.Equal(t, 2, exitCode(err))
	err = execute(exportCommand(), "--database-url", "postgres://nobody@127.0.0.1:1/x")
	assert.Equal(t, 1, exitCode(err))
	err = execute(exportCommand(), "--data", t.TempDir())
	assert.ErrorContains(t, err, "folder for temporary files")
}

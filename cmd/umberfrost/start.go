package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"umberfrost/internal/localpg"
	"umberfrost/internal/pgbin"
	"umberfrost/internal/shop"
	"umberfrost/internal/store"
)

// shopDatabase is the database of a shop of one's own, and backupFolder where its data folder has the daily backups.
const (
	shopDatabase = "shop"
	backupFolder = "backups"
)

func startCommand() *cobra.Command {
	var folder dataFolder
	var port int
	var how serving
	cmd := &cobra.Command{
		Use:   "start",
		Short: "Start a shop of your own on a private database",
		Long: "Start a shop of your own on a private PostgreSQL server. Its data is in a folder of yours, with a backup of every day;\n" +
			"the first time, the page asks what the shop is like.",
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error { return runStart(cmd, folder, port, how) },
	}
	folder.flags(cmd)
	how.flags(cmd)
	portFlags(cmd, &port, 8176, &how)
	return cmd
}

// portFlags are where a private shop is served: on loopback, and elsewhere too where that is said.
func portFlags(cmd *cobra.Command, port *int, usual int, how *serving) {
	cmd.Flags().IntVar(port, "port", usual, "port on 127.0.0.1; the next free one is taken when it is in use")
	cmd.Flags().StringSliceVar(&how.listen, "listen", nil,
		"another address to serve on, like 0.0.0.0:8443; may be given again. Beyond loopback over TLS, to paired devices")
}

func runStart(cmd *cobra.Command, folder dataFolder, port int, how serving) error {
	ctx, out := cmd.Context(), cmd.OutOrStdout()
	dir, err := folder.path()
	if err != nil {
		return err
	}
	fmt.Fprintf(out, "Your shop is kept in %s, with a backup of every day in %s.\n", dir, filepath.Join(dir, backupFolder))
	server, err := localpg.Start(ctx, dir, localpg.Options{})
	if err != nil {
		return folder.explain(err)
	}
	defer func() {
		if err := server.Stop(); err != nil {
			fmt.Fprintln(cmd.ErrOrStderr(), err)
		}
	}()
	service, s, err := openShop(ctx, server)
	if err != nil {
		return err
	}
	defer s.Close()
	if err := s.DropTrials(ctx); err != nil {
		return err
	}
	if how.authority == "" {
		how.authority = filepath.Join(dir, trustFolder)
	}
	d, err := how.open(port)
	if err != nil {
		return err
	}
	return serve(ctx, service, d, keeping{database: server, backups: filepath.Join(dir, backupFolder)}, out)
}

func openShop(ctx context.Context, server *localpg.Server) (*shop.Service, *store.Store, error) {
	if err := server.CreateDatabase(ctx, shopDatabase, ""); err != nil {
		return nil, nil, err
	}
	s, err := openMigrated(ctx, server.URL(shopDatabase))
	if err != nil {
		return nil, nil, err
	}
	service, err := shop.New(s, time.Now)
	if err != nil {
		s.Close()
	}
	return service, s, err
}

// dataFolder is where a shop of one's own is kept.
type dataFolder struct {
	named     string
	throwaway bool
}

func (f *dataFolder) flags(cmd *cobra.Command) {
	cmd.Flags().StringVar(&f.named, "data", "", "folder of the shop's data (default "+defaultFolder()+")")
	cmd.Flags().BoolVar(&f.throwaway, "throwaway", false, "the shop is only for trying: its folder may be one for temporary files")
}

// defaultFolder is where a user's programs keep what outlasts them; of root, where the machine's do.
func defaultFolder() string {
	if os.Geteuid() == 0 {
		return "/var/lib/umberfrost"
	}
	if kept := os.Getenv("XDG_DATA_HOME"); filepath.IsAbs(kept) {
		return filepath.Join(kept, "umberfrost")
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return ""
	}
	return filepath.Join(home, ".local", "share", "umberfrost")
}

// path is the folder, if data can stay in it.
func (f *dataFolder) path() (string, error) {
	dir := f.named
	if dir == "" {
		dir = defaultFolder()
	}
	if dir == "" {
		return "", badInput{errors.New("there is no home folder to keep a shop in; name one: --data FOLDER")}
	}
	dir, err := filepath.Abs(dir)
	if err != nil {
		return "", err
	}
	if clone := cloneAround(dir); clone != "" {
		return "", badInput{fmt.Errorf("--data %s is inside the program's own files (%s), which may be wiped; name a folder elsewhere", dir,
			clone)}
	}
	if temporary := temporaryAround(dir); temporary != "" && !f.throwaway {
		return "", badInput{fmt.Errorf("--data %s is in a folder for temporary files (%s), which the system empties; name one elsewhere, "+
			"or say --throwaway to only try it",
			dir, temporary)}
	}
	return dir, nil
}

// cloneAround is the folder of this program's source that a folder is in; empty where there is none.
func cloneAround(dir string) string {
	for ; ; dir = filepath.Dir(dir) {
		if module, err := os.ReadFile(filepath.Join(dir, "go.mod")); err == nil &&
			strings.HasPrefix(string(module), "module umberfrost\n") {
			return dir
		}
		if dir == filepath.Dir(dir) {
			return ""
		}
	}
}

// temporaryAround is the folder for temporary files that a folder is in; empty where it is in none.
func temporaryAround(dir string) string {
	for _, temporary := range []string{os.TempDir(), "/tmp", "/var/tmp", "/dev/shm", "/run"} {
		if within, err := filepath.Rel(temporary, dir); err == nil && within != ".." && !strings.HasPrefix(within, "../") {
			return temporary
		}
	}
	return ""
}

// explain says of an error at the start what to do about it.
func (f *dataFolder) explain(err error) error {
	if errors.Is(err, pgbin.ErrOtherVersion) {
		return fmt.Errorf("%w; where it cannot be had any more, umberfrost restore puts the last daily backup into another --data folder",
			err)
	}
	if errors.Is(err, localpg.ErrUnreachable) {
		return fmt.Errorf("%w; as root, name one that other users may pass through, like --data /var/lib/umberfrost", err)
	}
	return err
}

// attached is the shop of a data folder: the one that runs, or one that is started for as long as it is used.
func (f *dataFolder) attached(ctx context.Context, do func(*shop.Service) error) error {
	dir, err := f.path()
	if err != nil {
		return err
	}
	server, err := localpg.Start(ctx, dir, localpg.Options{})
	switch {
	case err == nil:
		defer server.Stop()
	case errors.Is(err, localpg.ErrInUse):
		if server, err = localpg.Attach(dir); err != nil {
			return err
		}
	default:
		return f.explain(err)
	}
	service, s, err := openShop(ctx, server)
	if err != nil {
		return err
	}
	defer s.Close()
	return do(service)
}

// which is the shop that a command works on: that of a database, or of a data folder.
type which struct {
	url    string
	folder dataFolder
}

func (w *which) flags(cmd *cobra.Command) {
	databaseFlag(cmd, &w.url)
	w.folder.flags(cmd)
}

// do works on the shop: on the database where one is named, else on that of the data folder.
func (w *which) do(cmd *cobra.Command, work func(context.Context, *shop.Service, io.Writer) error) error {
	ctx, out := cmd.Context(), cmd.OutOrStdout()
	if w.url == "" || cmd.Flags().Changed("data") {
		return w.folder.attached(ctx, func(service *shop.Service) error { return work(ctx, service, out) })
	}
	return withShop(ctx, w.url, func(service *shop.Service) error { return work(ctx, service, out) })
}

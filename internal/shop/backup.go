package shop

import (
	"cmp"
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"

	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// Errors of a backup that a caller tells apart.
var (
	ErrNotEmpty = store.ErrNotEmpty // a shop with instruments or a log is not overwritten
	ErrNewer    = store.ErrNewer
	ErrNoBackup = store.ErrNoBackup
)

// keptDays is how many daily backups are kept.
const keptDays = 14

// backups is where a service keeps its daily backups, and how the last one went.
type backups struct {
	folder string // none: nobody keeps any
	making sync.Mutex
	mu     sync.Mutex
	failed string
}

// BackupMade is a backup that was read back: what it holds exports to the same bytes as the shop it was made of.
type BackupMade struct {
	Path        string
	Bytes       int64
	Instruments int
	Entries     int
}

// BackupsView is the backups that a server keeps by itself.
type BackupsView struct {
	Folder string       `json:"folder" doc:"where they are; empty where this server keeps none"`
	Days   int          `json:"days" doc:"how many daily ones are kept"`
	Kept   []BackupLine `json:"kept" doc:"the newest first"`
	Failed string       `json:"failed,omitempty" doc:"why the last one could not be made"`
	Empty  bool         `json:"empty" doc:"the shop has neither instruments nor a log: a backup may be restored into it"`
	Most   int64        `json:"most" doc:"bytes of the largest file that a browser may send; the command takes any size"`
}

// BackupLine is a backup that is kept.
type BackupLine struct {
	Name string          `json:"name"`
	Made snapshot.Moment `json:"made"`
	Size string          `json:"size" doc:"1.2 MB"`
}

// Backup writes the whole shop into a file, while it is worked in, and reads it back.
func (s Files) Backup(ctx context.Context, path string) (BackupMade, error) {
	path, err := filepath.Abs(path)
	if err != nil {
		return BackupMade{}, err
	}
	made := BackupMade{Path: path}
	s.backups.making.Lock()
	defer s.backups.making.Unlock()
	now := s.clock().UTC()
	raw := path + ".untried"
	defer os.Remove(raw)
	var whole [sha256.Size]byte
	err = s.store.Read(ctx, func(tx *store.Tx) error {
		var err error
		if whole, err = digestOf(ctx, tx, now); err != nil {
			return err
		}
		if made.Instruments, made.Entries, err = tx.Counts(ctx); err != nil {
			return err
		}
		return s.store.Dump(ctx, tx, raw, now)
	})
	if err != nil {
		return made, err
	}
	err = s.store.Trial(ctx, raw, func(back *store.Store) error {
		return back.Read(ctx, func(tx *store.Tx) error {
			digest, err := digestOf(ctx, tx, now)
			if err == nil && digest != whole {
				err = errors.New("it does not hold what the shop holds")
			}
			return err
		})
	})
	if err != nil {
		return made, fmt.Errorf("the backup was read back, and is not good: %w", err)
	}
	info, err := os.Stat(raw)
	if err != nil {
		return made, err
	}
	made.Bytes = info.Size()
	return made, os.Rename(raw, path)
}

// digestOf is what the whole shop comes to as a schedule file.
func digestOf(ctx context.Context, tx *store.Tx, now time.Time) (sum [sha256.Size]byte, err error) {
	digest := sha256.New()
	if err := exportTo(ctx, tx, now, digest); err != nil {
		return sum, err
	}
	copy(sum[:], digest.Sum(nil))
	return sum, nil
}

// Restore puts a backup in the place of an empty shop, once it was read and can be planned with. It fails with
// ErrNotEmpty, ErrNewer or ErrNoBackup; then the shop is as it was.
func (s Files) Restore(ctx context.Context, path string) error {
	path, err := filepath.Abs(path)
	if err != nil {
		return err
	}
	if empty, err := s.empty(ctx); err != nil || !empty {
		return cmp.Or(err, ErrNotEmpty)
	}
	now := s.clock().Truncate(time.Minute)
	return s.store.Trial(ctx, path, func(trial *store.Store) error {
		err := trial.Read(ctx, func(tx *store.Tx) error {
			_, err := snapshot.Load(ctx, tx, now, nil)
			return err
		})
		if err != nil {
			return err
		}
		end, err := s.queue.take(ctx)
		if err != nil {
			return err
		}
		defer end()
		return s.store.Take(ctx, trial)
	})
}

func (s Files) empty(ctx context.Context) (bool, error) {
	empty := false
	err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		empty, err = tx.Empty(ctx)
		return err
	})
	return empty, err
}

// KeepBackups makes a backup a day in a folder and keeps the last fourteen, until the context ends. What fails is
// told under Shop, and tried again an hour later.
func (s Files) KeepBackups(ctx context.Context, folder string, log *slog.Logger) {
	s.backups.mu.Lock()
	s.backups.folder = folder
	s.backups.mu.Unlock()
	for ctx.Err() == nil {
		if err := s.daily(ctx); err != nil && ctx.Err() == nil && !errors.Is(err, snapshot.ErrNotBegun) {
			log.WarnContext(ctx, "no daily backup", "error", err)
		}
		sleep(ctx, time.Hour)
	}
}

var dailyName = regexp.MustCompile(`^umberfrost-\d{4}-\d{2}-\d{2}\.backup$`)

// daily makes the backup of the day, if there is none yet, and drops those that are too many.
func (s Files) daily(ctx context.Context) error {
	m, err := s.now(ctx)
	if err != nil {
		return err
	}
	folder := s.backups.where()
	day := s.clock().In(m.Plan.Zone).Format(time.DateOnly)
	path := filepath.Join(folder, "umberfrost-"+day+".backup")
	if _, err := os.Stat(path); err == nil {
		return nil
	}
	err = os.MkdirAll(folder, 0o700)
	if err == nil {
		_, err = s.Backup(ctx, path)
	}
	if err == nil {
		err = dropOld(folder)
	}
	s.backups.mu.Lock()
	defer s.backups.mu.Unlock()
	if s.backups.failed = ""; err != nil {
		s.backups.failed = err.Error()
	}
	return err
}

// where is the folder of the daily backups.
func (b *backups) where() string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.folder
}

func dropOld(folder string) error {
	names, err := dailyIn(folder)
	for _, name := range names[min(keptDays, len(names)):] {
		err = errors.Join(err, os.Remove(filepath.Join(folder, name)))
	}
	return err
}

// dailyIn are the daily backups that are kept in a folder, the newest first.
func dailyIn(folder string) ([]string, error) {
	files, err := os.ReadDir(folder)
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	var names []string
	for _, f := range files {
		if dailyName.MatchString(f.Name()) {
			names = append(names, f.Name())
		}
	}
	slices.SortFunc(names, func(a, b string) int { return strings.Compare(b, a) })
	return names, err
}

// Backups lists the backups that are kept, and whether one may be restored.
func (s Files) Backups(ctx context.Context) (BackupsView, error) {
	view := BackupsView{Days: keptDays, Kept: []BackupLine{}, Most: mostBytes}
	var err error
	if view.Empty, err = s.empty(ctx); err != nil {
		return view, err
	}
	s.backups.mu.Lock()
	view.Folder, view.Failed = s.backups.folder, s.backups.failed
	s.backups.mu.Unlock()
	m, err := s.now(ctx)
	if errors.Is(err, snapshot.ErrNotBegun) {
		return view, nil
	}
	if err != nil || view.Folder == "" {
		return view, err
	}
	names, err := dailyIn(view.Folder)
	for _, name := range names {
		if info, err := os.Stat(filepath.Join(view.Folder, name)); err == nil {
			view.Kept = append(view.Kept, BackupLine{name, m.Moment(info.ModTime()), bytesText(info.Size())})
		}
	}
	return view, err
}

// BackupPath is where a backup that is kept is.
func (s Files) BackupPath(name string) (string, error) {
	folder := s.backups.where()
	path := filepath.Join(folder, name)
	if folder == "" || !dailyName.MatchString(name) {
		return "", refuse.Missing("backup", name)
	}
	if _, err := os.Stat(path); err != nil {
		return "", refuse.Missing("backup", name)
	}
	return path, nil
}

// bytesText says how large a file is.
func bytesText(bytes int64) string {
	const mega = 1 << 20
	if bytes < mega {
		return fmt.Sprintf("%d kB", max(1, bytes>>10))
	}
	return fmt.Sprintf("%.1f MB", float64(bytes)/mega)
}

package store

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"umberfrost/internal/pgbin"
	"umberfrost/internal/store/backup"
)

// convertWait is how long pg_restore may take to turn an earlier backup into text.
const convertWait = 10 * time.Minute

// backupFile is a backup that is being read.
type backupFile struct {
	schema int64 // number of the last migration of the shop it was made of
	rows   backup.Rows
	close  []func() error
}

// Close ends reading it.
func (f *backupFile) Close() {
	for _, do := range slices.Backward(f.close) {
		do()
	}
}

// openBackup opens a backup of today's format, or one that an earlier Umberfrost made with pg_dump.
func openBackup(ctx context.Context, path string) (*backupFile, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	opened := &backupFile{close: []func() error{file.Close}}
	begins := make([]byte, len(backup.DumpMagic))
	if _, err := io.ReadFull(file, begins); err != nil {
		opened.Close()
		return nil, fmt.Errorf("%w: it is too short", ErrNoBackup)
	}
	if bytes.Equal(begins, backup.DumpMagic) {
		err = opened.convert(ctx, path)
	} else if _, err = file.Seek(0, io.SeekStart); err == nil {
		err = opened.read(file)
	}
	if err != nil {
		opened.Close()
		return nil, err
	}
	return opened, nil
}

func (f *backupFile) read(file io.Reader) error {
	r, err := backup.NewReader(bufio.NewReader(file), backup.MostBytes)
	if err != nil {
		return err
	}
	f.schema, f.rows = r.Head.Schema, r
	return nil
}

// convert reads a dump by the text that pg_restore makes of it, which is run for that alone: without a connection, and
// nothing of the text is run.
func (f *backupFile) convert(ctx context.Context, path string) error {
	list, err := startConverter(ctx, "--list", path)
	if err != nil {
		return err
	}
	if err := list.end(backup.CheckList(backup.Bounded(list, backup.MostBytes))); err != nil {
		return err
	}
	versions, err := startConverter(ctx, "--data-only", "--table="+backup.VersionTable, "--file=-", path)
	if err != nil {
		return err
	}
	table, rows, err := backup.NewDump(versions, backup.MostBytes).Next()
	if err == io.EOF {
		err = fmt.Errorf("%w: it does not say how far its schema had come", ErrNoBackup)
	}
	if err == nil {
		f.schema, err = backup.SchemaOf(table, rows)
	}
	if err := versions.end(err); err != nil {
		return err
	}
	all, err := startConverter(ctx, "--data-only", "--file=-", path)
	if err != nil {
		return err
	}
	f.close = append(f.close, func() error { return all.end(errors.New("not wanted any more")) })
	f.rows = convertedRows{backup.NewDump(all, backup.MostBytes), all}
	return nil
}

// convertedRows are those of a converter, which has ended well behind the last.
type convertedRows struct {
	*backup.Dump
	from *converter
}

// Next gives the next table.
func (c convertedRows) Next() (backup.Table, io.Reader, error) {
	table, rows, err := c.Dump.Next()
	if err == io.EOF {
		if failed := c.from.end(nil); failed != nil {
			err = failed
		}
	}
	return table, rows, err
}

// converter is a pg_restore that is running.
type converter struct {
	io.Reader
	cmd   *exec.Cmd
	stop  context.CancelFunc
	wrong tail
	ended bool
	err   error
}

func startConverter(ctx context.Context, args ...string) (*converter, error) {
	bin, err := pgbin.Find().Newest()
	path := filepath.Join(bin, "pg_restore")
	if err != nil {
		if path, err = exec.LookPath("pg_restore"); err != nil {
			return nil, fmt.Errorf("a backup of an earlier version is read with PostgreSQL's pg_restore: %w", pgbin.ErrNone)
		}
	}
	ctx, stop := context.WithTimeout(ctx, convertWait)
	c := &converter{cmd: exec.CommandContext(ctx, path, args...), stop: stop}
	c.cmd.Env, c.cmd.Stderr = []string{"LC_ALL=C"}, &c.wrong // it knows no server and no user
	out, err := c.cmd.StdoutPipe()
	if err == nil {
		err = c.cmd.Start()
	}
	if err != nil {
		stop()
		return nil, fmt.Errorf("pg_restore: %w", err)
	}
	c.Reader = out
	return c, nil
}

// end ends it: after all was read, or because what was read is no good.
func (c *converter) end(read error) error {
	if c.ended {
		return c.err
	}
	c.ended = true
	if read != nil {
		c.stop()
	} else if _, err := io.Copy(io.Discard, c.Reader); err != nil {
		read = err
	}
	err := c.cmd.Wait()
	c.stop()
	switch {
	case read != nil:
		c.err = read
	case err != nil:
		c.err = fmt.Errorf("%w: %w: %s", ErrNoBackup, err, strings.TrimSpace(string(c.wrong)))
	}
	return c.err
}

// tail is the beginning of what a program complains of.
type tail []byte

func (t *tail) Write(text []byte) (int, error) {
	const most = 2000
	*t = append(*t, text[:min(len(text), max(0, most-len(*t)))]...)
	return len(text), nil
}

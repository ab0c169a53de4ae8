package localpg

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os/exec"
	"runtime"
	"syscall"
	"time"
)

// process is a server's process.
type process struct {
	cmd  *exec.Cmd
	over chan struct{} // closed when it has ended
	err  error         // how it ended, once it has
}

// keep starts a process and waits for it, all on one thread that lives as long
// as the process: Linux sends the parent-death signal when the thread that
// started a child ends, not only when the whole parent does.
func keep(cmd *exec.Cmd) (*process, error) {
	p, started := &process{cmd: cmd, over: make(chan struct{})}, make(chan error)
	go func() {
		runtime.LockOSThread()
		defer runtime.UnlockOSThread()
		err := cmd.Start()
		started <- err
		if err == nil {
			p.err = cmd.Wait()
			close(p.over)
		}
	}()
	return p, <-started
}

// end ends it cleanly and waits until it is gone.
func (p *process) end() error {
	p.cmd.Process.Signal(syscall.SIGINT) // PostgreSQL's fast shutdown
	select {
	case <-p.over:
		return nil
	case <-time.After(stopWait):
		p.cmd.Process.Kill()
		return errors.New("the private PostgreSQL server did not stop and was killed")
	}
}

// How long is waited before a server that died is started again, where the first try was in vain: what is left of it
// may still be ending.
const (
	againFrom = 200 * time.Millisecond
	againMost = 30 * time.Second
)

// Watch starts the server again whenever it ends by itself, and says so in the log, until the context ends or the
// server is stopped.
func (s *Server) Watch(ctx context.Context, log *slog.Logger) {
	for {
		s.mu.Lock()
		p := s.running
		s.mu.Unlock()
		if p == nil {
			return
		}
		select {
		case <-ctx.Done():
			return
		case <-p.over:
		}
		log.ErrorContext(ctx, "the database server has ended by itself; it is started again", "ended", fmt.Sprint(p.err), "its log",
			s.logTail())
		for wait := againFrom; ; wait = min(2*wait, againMost) {
			err := s.again(ctx, p)
			if err == nil {
				break
			}
			log.ErrorContext(ctx, "the database server could not be started again", "error", err, "next try in", wait)
			select {
			case <-ctx.Done():
				return
			case <-time.After(wait):
			}
		}
	}
}

// again starts the server in the place of a process that has ended, unless somebody has stopped it meanwhile.
func (s *Server) again(ctx context.Context, ended *process) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.running != ended {
		return nil
	}
	p, err := s.launch()
	if err != nil {
		return err
	}
	if err := s.waitUntilReady(ctx, p); err != nil {
		p.cmd.Process.Kill()
		return err
	}
	s.running = p
	return nil
}

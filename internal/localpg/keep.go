package localpg

import (
	"os/exec"
	"runtime"
)

// keep starts a process and waits for it, all on one thread that lives as long
// as the process: Linux sends the parent-death signal when the thread that
// started a child ends, not only when the whole parent does.
func keep(process *exec.Cmd, started, exited chan<- error) {
	runtime.LockOSThread()
	defer runtime.UnlockOSThread()
	err := process.Start()
	started <- err
	if err == nil {
		exited <- process.Wait()
	}
}

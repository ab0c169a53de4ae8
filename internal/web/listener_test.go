package web

import (
	"errors"
	"io"
	"net"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tired is a listener that fails some times before it accepts.
type tired struct {
	net.Listener
	fails []error
}

func (l *tired) Accept() (net.Conn, error) {
	if len(l.fails) > 0 {
		err := l.fails[0]
		l.fails = l.fails[1:]
		return nil, &net.OpError{Op: "accept", Err: err}
	}
	return l.Listener.Accept()
}

func listening(t *testing.T, fails ...error) *Listener {
	l, err := Listen("127.0.0.1:0", nil)
	require.NoError(t, err)
	l.Listener = &tired{l.Listener, fails}
	t.Cleanup(func() { l.Close() })
	return l
}

func TestItIsSeenThatAClientHasGone(t *testing.T) {
	t.Parallel()
	l := listening(t)
	there, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	conn, err := l.Accept()
	require.NoError(t, err)
	defer conn.Close()
	assert.False(t, gone(conn))
	left := make(chan struct{})
	end := watchClient(t.Context(), conn, func() { close(left) })
	_, err = there.Write([]byte("GET / HTTP/1.1")) // what is not read yet does not hide it
	require.NoError(t, err)
	require.NoError(t, there.Close())
	<-left
	end()
	assert.True(t, gone(conn))
	one, other := net.Pipe()
	defer other.Close()
	assert.False(t, gone(one), "what cannot be asked is there")
}

func TestAListenerWaitsForDescriptors(t *testing.T) {
	t.Parallel()
	l := listening(t, syscall.EMFILE, syscall.ENFILE, syscall.ENOMEM, syscall.ECONNABORTED)
	go net.Dial("tcp", l.Addr().String())
	conn, err := l.Accept()
	require.NoError(t, err)
	require.NoError(t, conn.Close())

	l = listening(t, syscall.EBADF)
	_, err = l.Accept()
	assert.ErrorIs(t, err, syscall.EBADF, "what does not pass is told")

	l = listening(t, syscall.EMFILE, syscall.EMFILE, syscall.EMFILE, syscall.EMFILE, syscall.EMFILE, syscall.EMFILE, syscall.EMFILE,
		syscall.EMFILE)
	time.AfterFunc(20*time.Millisecond, func() { l.Close() })
	_, err = l.Accept()
	assert.True(t, errors.Is(err, net.ErrClosed), "it is closed while it waits: %v", err)
}

func TestAListenerOpensNoMoreThanItMay(t *testing.T) {
	t.Parallel()
	l := listening(t)
	l.free = make(chan struct{}, 2)
	accepted := make(chan net.Conn, 3)
	go func() {
		for {
			conn, err := l.Accept()
			if err != nil {
				close(accepted)
				return
			}
			accepted <- conn
		}
	}()
	for range 3 {
		conn, err := net.Dial("tcp", l.Addr().String())
		require.NoError(t, err)
		defer conn.Close()
	}
	first, second := <-accepted, <-accepted
	assert.Empty(t, accepted, "the third waits")
	require.NoError(t, first.Close())
	require.Error(t, first.Close(), "closed twice, it frees one place")
	third := <-accepted
	assert.Len(t, l.free, 2)

	l.cut()
	for _, conn := range []net.Conn{second, third} {
		_, err := conn.Read(make([]byte, 1))
		assert.True(t, errors.Is(err, net.ErrClosed) || errors.Is(err, io.EOF), "%v", err)
	}
	require.NoError(t, l.Close())
	_, open := <-accepted
	assert.False(t, open)
}

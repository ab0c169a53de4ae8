package web

import (
	"crypto/tls"
	"errors"
	"io"
	"net"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"golang.org/x/sys/unix"
)

// Listener accepts connections for as long as it is open, whatever happens: where the machine has no descriptor left for
// another connection, it waits until one comes free. It knows what is open, so that a stop need not wait for it.
type Listener struct {
	net.Listener
	secure *tls.Config
	free   chan struct{} // takes one for each connection that is open
	mu     sync.Mutex
	open   map[*known]bool
	closed chan struct{}
	once   sync.Once
}

const (
	backOffFrom = 5 * time.Millisecond
	backOffMost = time.Second

	// shareOfDescriptors is which part of the descriptors connections may take, one in so many; the rest is for the
	// database and for files.
	shareOfDescriptors = 4
	fewestConnections  = 8
	mostConnections    = 8192
)

// Listen listens at an address; over TLS where there is a configuration for it.
func Listen(address string, secure *tls.Config) (*Listener, error) {
	inner, err := net.Listen("tcp", address)
	if err != nil {
		return nil, err
	}
	return &Listener{Listener: inner, secure: secure, free: make(chan struct{}, connectionsAtOnce()), open: make(map[*known]bool),
		closed: make(chan struct{})}, nil
}

// connectionsAtOnce is how many connections are open at a time on one listener; others wait until one comes free.
func connectionsAtOnce() int {
	var limit syscall.Rlimit
	if err := syscall.Getrlimit(syscall.RLIMIT_NOFILE, &limit); err != nil {
		return mostConnections
	}
	return int(max(fewestConnections, min(mostConnections, limit.Cur/shareOfDescriptors)))
}

// Accept waits for the next connection.
func (l *Listener) Accept() (net.Conn, error) {
	select {
	case l.free <- struct{}{}:
	case <-l.closed:
		return nil, net.ErrClosed
	}
	for wait := backOffFrom; ; wait = min(2*wait, backOffMost) {
		conn, err := l.Listener.Accept()
		switch {
		case err == nil:
			return l.opened(conn), nil
		case !passing(err):
			<-l.free
			return nil, err
		}
		select {
		case <-time.After(wait):
		case <-l.closed:
		}
	}
}

// passing reports whether an error says nothing of the next connection: the machine is out of descriptors or memory
// for now, or a client has gone while it waited.
func passing(err error) bool {
	for _, one := range []syscall.Errno{syscall.EMFILE, syscall.ENFILE, syscall.ENOMEM, syscall.ENOBUFS, syscall.ECONNABORTED,
		syscall.EINTR} {
		if errors.Is(err, one) {
			return true
		}
	}
	return false
}

// opened keeps a connection that may be idle only for as long as one that has asked for something.
func (l *Listener) opened(conn net.Conn) net.Conn {
	conn.SetDeadline(time.Now().Add(readWait)) // the first read sets its own
	known := &known{Conn: conn, of: l}
	l.mu.Lock()
	l.open[known] = true
	l.mu.Unlock()
	if l.secure != nil {
		return tls.Server(known, l.secure)
	}
	return known
}

// known is a connection that its listener knows.
type known struct {
	net.Conn
	of     *Listener
	once   sync.Once
	linger atomic.Bool // its client is still sending what was refused
}

// How much of what a client still sends is read over, and for how long, so that it comes to read why it was refused.
const (
	lingerBytes = 512 << 20
	lingerWait  = 15 * time.Second
)

// knownOf is the connection below TLS; nil where it is none of a listener's.
func knownOf(conn net.Conn) *known {
	if secure, is := conn.(*tls.Conn); is {
		conn = secure.NetConn()
	}
	c, _ := conn.(*known)
	return c
}

// hearOut lets the client of a connection that is about to be closed send the rest of its request: closed at once, it
// would lose the answer with it.
func hearOut(conn net.Conn) {
	if c := knownOf(conn); c != nil {
		c.linger.Store(true)
	}
}

// gone reports whether the client of a connection has closed it. What cannot be asked is there.
func gone(conn net.Conn) bool {
	c := knownOf(conn)
	if c == nil {
		return false
	}
	tcp, is := c.Conn.(*net.TCPConn)
	if !is {
		return false
	}
	raw, err := tcp.SyscallConn()
	if err != nil {
		return true
	}
	left := false
	err = raw.Control(func(fd uintptr) {
		info, err := unix.GetsockoptTCPInfo(int(fd), unix.IPPROTO_TCP, unix.TCP_INFO)
		left = err == nil && info.State != unix.BPF_TCP_ESTABLISHED // as of any socket
	})
	return err != nil || left
}

// Close closes it, and lets the next one in.
func (c *known) Close() error {
	if tcp, is := c.Conn.(*net.TCPConn); is && c.linger.CompareAndSwap(true, false) {
		tcp.CloseWrite()
		tcp.SetReadDeadline(time.Now().Add(lingerWait))
		io.CopyN(io.Discard, tcp, lingerBytes)
	}
	err := c.Conn.Close()
	c.once.Do(func() {
		c.of.mu.Lock()
		delete(c.of.open, c)
		c.of.mu.Unlock()
		<-c.of.free
	})
	return err
}

// Close ends accepting; what is open stays.
func (l *Listener) Close() error {
	l.once.Do(func() { close(l.closed) })
	return l.Listener.Close()
}

// cut closes what is open.
func (l *Listener) cut() {
	l.mu.Lock()
	open := make([]net.Conn, 0, len(l.open))
	for conn := range l.open {
		open = append(open, conn.Conn) // at once, whoever is still sending
	}
	l.mu.Unlock()
	for _, conn := range open {
		conn.Close()
	}
}

// Secure reports whether it is read over TLS.
func (l *Listener) Secure() bool { return l.secure != nil }

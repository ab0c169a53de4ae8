package trust_test

import (
	"crypto/tls"
	"crypto/x509"
	"net"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/trust"
)

var now = time.Date(2026, 3, 12, 9, 0, 0, 0, time.UTC)

func clock() time.Time { return now }

// served is the certificate that a client gets, which it must trust by the authority.
func served(t *testing.T, k *trust.Kept, name string, at time.Time) (*x509.Certificate, error) {
	t.Helper()
	listener, err := tls.Listen("tcp", "127.0.0.1:0", k.Config())
	require.NoError(t, err)
	defer listener.Close()
	go func() {
		if conn, err := listener.Accept(); err == nil {
			conn.(*tls.Conn).Handshake()
			conn.Close()
		}
	}()
	pool := x509.NewCertPool()
	pool.AddCert(k.Authority)
	client, err := tls.Dial("tcp", listener.Addr().String(), &tls.Config{ServerName: name, RootCAs: pool,
		Time: func() time.Time { return at }})
	if err != nil {
		return nil, err
	}
	defer client.Close()
	return client.ConnectionState().PeerCertificates[0], nil
}

func TestAnAuthorityVouchesForItsServer(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "tls")
	_, err := trust.Open(folder, nil, clock)
	require.ErrorIs(t, err, trust.ErrNone)
	k, err := trust.Make(folder, []string{"shop.local", "192.168.1.20", "localhost", "saltmarsh.example"}, clock)
	require.NoError(t, err)
	for name, knows := range map[string]bool{"shop.local": true, "192.168.1.20": true, "saltmarsh.example": true, "evil.example": false,
		"192.168.1.21": false, "": false} {
		assert.Equal(t, knows, k.Named(name), name)
	}
	assert.Equal(t, []string{"saltmarsh.example", "shop.local", "192.168.1.20"}, k.Names())
	leaf, err := served(t, k, "shop.local", now)
	require.NoError(t, err)
	assert.LessOrEqual(t, leaf.NotAfter.Sub(leaf.NotBefore), 398*24*time.Hour, "devices refuse what is good for longer")
	_, err = served(t, k, "evil.example", now)
	assert.Error(t, err)
	for file, mode := range map[string]os.FileMode{"authority.key": 0o600, "server.key": 0o600, "authority.crt": 0o644} {
		info, err := os.Stat(filepath.Join(folder, file))
		require.NoError(t, err)
		assert.Equal(t, mode, info.Mode().Perm(), file)
	}

	again, err := trust.Open(folder, []string{"shop.local"}, clock)
	require.NoError(t, err)
	assert.Equal(t, trust.Fingerprint(k.Authority), trust.Fingerprint(again.Authority), "devices have taken it")
	same, err := served(t, again, "shop.local", now)
	require.NoError(t, err)
	assert.Equal(t, leaf.SerialNumber, same.SerialNumber)
}

func TestACertificateIsMadeAnewInTime(t *testing.T) {
	folder := t.TempDir()
	at := now
	k, err := trust.Make(folder, []string{"shop.local"}, func() time.Time { return at })
	require.NoError(t, err)
	first, err := served(t, k, "shop.local", at)
	require.NoError(t, err)
	at = first.NotAfter.Add(-31 * 24 * time.Hour)
	same, err := served(t, k, "shop.local", at)
	require.NoError(t, err)
	assert.Equal(t, first.SerialNumber, same.SerialNumber)
	at = first.NotAfter.Add(-29 * 24 * time.Hour)
	next, err := served(t, k, "shop.local", at)
	require.NoError(t, err)
	assert.NotEqual(t, first.SerialNumber, next.SerialNumber, "while it is served with")
	assert.True(t, next.NotAfter.After(first.NotAfter))

	moved, err := trust.Open(folder, []string{"10.0.0.7"}, func() time.Time { return at })
	require.NoError(t, err)
	assert.True(t, moved.Named("10.0.0.7"), "the machine got another address")
	assert.True(t, moved.Named("shop.local"))

	at = now.AddDate(10, 0, 1)
	_, err = trust.Open(folder, nil, func() time.Time { return at })
	assert.ErrorContains(t, err, "was good until 2036-03-12")
}

// What an authority was not made for it cannot vouch for, whoever has its key.
func TestAnAuthorityIsForTheShopOnly(t *testing.T) {
	folder := t.TempDir()
	_, err := trust.Make(folder, []string{"shop.local"}, clock)
	require.NoError(t, err)
	_, err = trust.Open(folder, []string{"bank.example"}, clock)
	assert.ErrorContains(t, err, "may not vouch for bank.example")
	k, err := trust.Open(folder, nil, clock)
	require.NoError(t, err)
	assert.False(t, k.Named("bank.example"))
}

func TestACertificateOfSomebodyElse(t *testing.T) {
	folder := t.TempDir()
	made, err := trust.Make(folder, []string{"shop.local"}, clock)
	require.NoError(t, err)
	at := now
	k, err := trust.Use(filepath.Join(folder, "server.crt"), filepath.Join(folder, "server.key"), func() time.Time { return at })
	require.NoError(t, err)
	assert.Nil(t, k.Authority)
	assert.True(t, k.Named("shop.local"))
	k.Authority = made.Authority
	first, err := served(t, k, "shop.local", now)
	require.NoError(t, err)
	k.Authority = nil
	_, err = trust.Open(folder, []string{"10.0.0.7"}, clock) // somebody renews it
	require.NoError(t, err)
	at = now.Add(2 * time.Minute)
	assert.True(t, k.Named("10.0.0.7"), first.SerialNumber)
	_, err = trust.Use(filepath.Join(folder, "server.crt"), filepath.Join(folder, "gone.key"), clock)
	assert.ErrorContains(t, err, "the certificate of the server")
}

func TestNames(t *testing.T) {
	require.NoError(t, trust.CheckNames([]string{"shop.local", "fe80::1", "10.0.0.1", "a-b"}))
	for _, name := range []string{"", "a b", "shop.local:8443", "http://x", "öl.local", "a_b"} {
		assert.Error(t, trust.CheckNames([]string{name}), name)
	}
	assert.Contains(t, trust.OwnNames(), "localhost")
	require.NoError(t, trust.CheckNames(trust.OwnNames()))
}

func TestOnlyAddressesThatLeadHereAreOffered(t *testing.T) {
	own := trust.OwnNames()
	k, err := trust.Make(t.TempDir(), append([]string{"shop.invalid", "192.0.2.77"}, own...), clock)
	require.NoError(t, err)
	offered := k.Reached(t.Context(), net.IPv4zero)
	assert.NotContains(t, offered, "192.0.2.77", "this machine has it no more")
	assert.NotContains(t, offered, "shop.invalid", "it leads nowhere")
	assert.NotContains(t, offered, "localhost")
	for _, name := range own {
		ip := net.ParseIP(name)
		if ip == nil || ip.IsLoopback() {
			continue
		}
		assert.Contains(t, offered, name)
		assert.Contains(t, k.Reached(t.Context(), ip), name)
		assert.NotContains(t, k.Reached(t.Context(), net.ParseIP("192.0.2.99")), name, "it does not listen there")
	}
}

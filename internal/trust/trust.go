// Package trust gives a shop the certificate that it is served with beyond its own machine.
//
// A shop has no name that a public authority would vouch for, so it makes an authority of its own: a certificate that
// its devices take once, and that vouches for the certificate of the server, which is made anew before it lapses or
// when the server gets another address. The authority can vouch only for names of a local network and those it was
// made for, so that whoever steals its key cannot stand between a device and the rest of the world. A shop that has a
// certificate of another authority uses that instead.
package trust

import (
	"context"
	"crypto"
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// ErrNone says that there is no authority in a folder.
var ErrNone = errors.New("no authority has been made here")

// How long certificates are good for. Devices refuse a server's that is good for longer than 398 days, whoever vouches
// for it.
const (
	authorityYears = 10
	serverDays     = 397
	renewBefore    = 30 * 24 * time.Hour
	lookEvery      = time.Minute
	backdated      = time.Hour // for devices whose clock is behind
)

// Files of an authority in its folder.
const (
	authorityFile    = "authority.crt"
	authorityKeyFile = "authority.key"
	serverFile       = "server.crt"
	serverKeyFile    = "server.key"
)

// localNames end the names of local networks: what an authority may always vouch for.
var localNames = []string{"local", "localhost", "home.arpa", "internal", "lan"}

// localNets are the addresses of local networks.
var localNets = []string{"127.0.0.0/8", "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "100.64.0.0/10", "::1/128",
	"fc00::/7", "fe80::/10"}

// Kept is a certificate to serve with, which is kept good for as long as it is served with.
type Kept struct {
	Authority *x509.Certificate // nil: that of somebody else vouches for it

	certificate, key string // its files
	folder           string // of the authority
	clock            func() time.Time

	mu     sync.Mutex
	server *tls.Certificate
	looked time.Time
}

// Make makes an authority in a folder, unless there is one, and a certificate for a server of these names and
// addresses, beside those that it had.
func Make(folder string, names []string, clock func() time.Time) (*Kept, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, err
	}
	k := &Kept{folder: folder, clock: clock, certificate: filepath.Join(folder, serverFile), key: filepath.Join(folder, serverKeyFile)}
	if _, err := os.Stat(filepath.Join(folder, authorityFile)); errors.Is(err, fs.ErrNotExist) {
		if err := k.makeAuthority(names); err != nil {
			return nil, fmt.Errorf("making an authority: %w", err)
		}
	}
	return k, k.ready(names)
}

// Open opens the authority of a folder. Its server gets a certificate for these names too, where it has none yet.
// It fails with ErrNone where no authority was made.
func Open(folder string, names []string, clock func() time.Time) (*Kept, error) {
	if _, err := os.Stat(filepath.Join(folder, authorityFile)); errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("%w: %s", ErrNone, folder)
	}
	return Make(folder, names, clock)
}

// Use serves with a certificate that another authority vouches for. It is read again when it has been renewed.
func Use(certificate, key string, clock func() time.Time) (*Kept, error) {
	k := &Kept{certificate: certificate, key: key, clock: clock}
	return k, k.read()
}

// ready reads the authority and the server's certificate, and makes that anew where it will not do.
func (k *Kept) ready(names []string) error {
	made, err := readPEM(filepath.Join(k.folder, authorityFile))
	if err != nil {
		return err
	}
	if k.Authority, err = x509.ParseCertificate(made); err != nil {
		return fmt.Errorf("the certificate of the authority: %w", err)
	}
	if k.clock().After(k.Authority.NotAfter) {
		return fmt.Errorf("the authority in %s was good until %s; remove that folder and make another, which every device then takes",
			k.folder, k.Authority.NotAfter.Format(time.DateOnly))
	}
	if err := k.read(); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	if k.server == nil {
		return k.issue(names)
	}
	missing := slices.ContainsFunc(names, func(name string) bool { return k.server.Leaf.VerifyHostname(name) != nil })
	if missing || k.lapses() {
		return k.issue(append(namesOf(k.server.Leaf), names...))
	}
	return nil
}

func (k *Kept) lapses() bool { return k.clock().Add(renewBefore).After(k.server.Leaf.NotAfter) }

func (k *Kept) read() error {
	server, err := tls.LoadX509KeyPair(k.certificate, k.key)
	if err != nil {
		return fmt.Errorf("the certificate of the server: %w", err)
	}
	k.server, k.looked = &server, k.clock()
	return nil
}

func (k *Kept) makeAuthority(names []string) error {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return err
	}
	now := k.clock()
	host, _ := os.Hostname()
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: strings.TrimSpace("Umberfrost shop authority " + host)},
		NotBefore: now.Add(-backdated), NotAfter: now.AddDate(authorityYears, 0, 0),
		IsCA: true, BasicConstraintsValid: true, MaxPathLenZero: true, KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageCRLSign,
		PermittedDNSDomainsCritical: true, PermittedDNSDomains: slices.Clone(localNames),
	}
	for _, text := range localNets {
		_, of, err := net.ParseCIDR(text)
		if err != nil {
			return err
		}
		template.PermittedIPRanges = append(template.PermittedIPRanges, of)
	}
	for _, name := range names {
		switch ip := net.ParseIP(name); {
		case ip == nil:
			template.PermittedDNSDomains = append(template.PermittedDNSDomains, name)
		case !slices.ContainsFunc(template.PermittedIPRanges, func(of *net.IPNet) bool { return of.Contains(ip) }):
			template.PermittedIPRanges = append(template.PermittedIPRanges, only(ip))
		}
	}
	made, err := x509.CreateCertificate(rand.Reader, template, template, key.Public(), key)
	if err != nil {
		return err
	}
	if err := writeKey(filepath.Join(k.folder, authorityKeyFile), key); err != nil {
		return err
	}
	return writePEM(filepath.Join(k.folder, authorityFile), "CERTIFICATE", made, 0o644)
}

// only is a net of one address.
func only(ip net.IP) *net.IPNet {
	if short := ip.To4(); short != nil {
		return &net.IPNet{IP: short, Mask: net.CIDRMask(32, 32)}
	}
	return &net.IPNet{IP: ip, Mask: net.CIDRMask(128, 128)}
}

// issue makes a certificate for a server of these names.
func (k *Kept) issue(names []string) error {
	data, err := readPEM(filepath.Join(k.folder, authorityKeyFile))
	if err != nil {
		return err
	}
	parsed, err := x509.ParsePKCS8PrivateKey(data)
	if err != nil {
		return fmt.Errorf("the key of the authority: %w", err)
	}
	signer, is := parsed.(crypto.Signer)
	if !is {
		return errors.New("the key of the authority cannot sign")
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return err
	}
	now := k.clock()
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: "Umberfrost"}, NotBefore: now.Add(-backdated),
		NotAfter: now.AddDate(0, 0, serverDays),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
	}
	if template.NotAfter.After(k.Authority.NotAfter) {
		template.NotAfter = k.Authority.NotAfter
	}
	slices.Sort(names)
	for _, name := range slices.Compact(names) {
		if ip := net.ParseIP(name); ip != nil {
			template.IPAddresses = append(template.IPAddresses, ip)
		} else {
			template.DNSNames = append(template.DNSNames, name)
		}
	}
	made, err := x509.CreateCertificate(rand.Reader, template, k.Authority, key.Public(), signer)
	if err != nil {
		return fmt.Errorf("making a certificate for the server: %w", err)
	}
	leaf, err := x509.ParseCertificate(made)
	if err != nil {
		return err
	}
	trusted := x509.NewCertPool()
	trusted.AddCert(k.Authority)
	if _, err := leaf.Verify(x509.VerifyOptions{Roots: trusted, CurrentTime: now}); err != nil {
		return fmt.Errorf("the authority in %s may not vouch for %s; remove that folder to make another, which every device then takes: %w",
			k.folder, strings.Join(names, ", "), err)
	}
	if err := writeKey(k.key, key); err != nil {
		return err
	}
	if err := writePEM(k.certificate, "CERTIFICATE", made, 0o644); err != nil {
		return err
	}
	return k.read()
}

// Config serves with the certificate, and with the one that takes its place.
func (k *Kept) Config() *tls.Config {
	return &tls.Config{MinVersion: tls.VersionTLS12, NextProtos: []string{"http/1.1"},
		GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate, error) { return k.now(), nil }}
}

// now is the certificate as it is good now: one that cannot be renewed is better than none.
func (k *Kept) now() *tls.Certificate {
	k.mu.Lock()
	defer k.mu.Unlock()
	now := k.clock()
	if now.Sub(k.looked) < lookEvery {
		return k.server
	}
	k.looked = now
	switch {
	case k.Authority == nil:
		_ = k.read()
	case k.lapses():
		_ = k.issue(namesOf(k.server.Leaf))
	}
	return k.server
}

// Leaf is the certificate that it serves with now.
func (k *Kept) Leaf() *x509.Certificate { return k.now().Leaf }

// Named reports whether the certificate is for a host of this name.
func (k *Kept) Named(host string) bool { return k.Leaf().VerifyHostname(host) == nil }

// Names are the names and addresses that a server is asked for by, beside those of its own machine; names first.
func (k *Kept) Names() []string {
	return slices.DeleteFunc(namesOf(k.Leaf()), func(name string) bool {
		ip := net.ParseIP(name)
		return name == "localhost" || strings.HasPrefix(name, "*") || (ip != nil && ip.IsLoopback())
	})
}

// nameWait is how long is waited for the addresses of a name.
const nameWait = 500 * time.Millisecond

// Reached are the names and addresses of the certificate by which other devices reach what listens at an address: the
// addresses that this machine has now, of those that it listens on, and names that lead to one of them.
func (k *Kept) Reached(ctx context.Context, at net.IP) []string {
	own := ownAddresses()
	if !at.IsUnspecified() {
		own = []net.IP{at}
	}
	ours := func(ip net.IP) bool { return slices.ContainsFunc(own, ip.Equal) }
	return slices.DeleteFunc(k.Names(), func(name string) bool {
		if ip := net.ParseIP(name); ip != nil {
			return !ours(ip)
		}
		ctx, stop := context.WithTimeout(ctx, nameWait)
		defer stop()
		found, err := net.DefaultResolver.LookupIP(ctx, "ip", name)
		return err != nil || !slices.ContainsFunc(found, ours)
	})
}

func namesOf(leaf *x509.Certificate) []string {
	names := slices.Clone(leaf.DNSNames)
	for _, ip := range leaf.IPAddresses {
		names = append(names, ip.String())
	}
	return names
}

// Fingerprint is the SHA-256 of a certificate, as devices show it.
func Fingerprint(of *x509.Certificate) string {
	sum := sha256.Sum256(of.Raw)
	parts := make([]string, len(sum))
	for i, b := range sum {
		parts[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(parts, ":")
}

// OwnNames are the names and addresses that this machine has on its networks.
func OwnNames() []string {
	names := []string{"localhost", "127.0.0.1", "::1"}
	if host, err := os.Hostname(); err == nil && hostName(host) {
		names = append(names, strings.ToLower(host))
		if !strings.Contains(host, ".") {
			names = append(names, strings.ToLower(host)+".local")
		}
	}
	for _, ip := range ownAddresses() {
		names = append(names, ip.String())
	}
	return names
}

// ownAddresses are those that this machine has on its networks.
func ownAddresses() []net.IP {
	addresses, err := net.InterfaceAddrs()
	if err != nil {
		return nil
	}
	var own []net.IP
	for _, a := range addresses {
		if of, is := a.(*net.IPNet); is && of.IP.IsGlobalUnicast() {
			own = append(own, of.IP)
		}
	}
	return own
}

// hostName reports whether a certificate can be for a host of this name.
func hostName(name string) bool {
	return name != "" && !strings.ContainsFunc(name, func(r rune) bool {
		return r != '-' && r != '.' && (r < '0' || r > '9') && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z')
	})
}

// CheckNames says which of some names no certificate can be for.
func CheckNames(names []string) error {
	for _, name := range names {
		if net.ParseIP(name) == nil && !hostName(name) {
			return fmt.Errorf("%q is neither a name nor an address; write it like shop.local or 192.168.1.20", name)
		}
	}
	return nil
}

func serial() *big.Int {
	most := new(big.Int).Lsh(big.NewInt(1), 120)
	n, err := rand.Int(rand.Reader, most)
	if err != nil {
		panic(err) // the system has no randomness: nothing of this can be made
	}
	return n
}

func writeKey(path string, key *ecdsa.PrivateKey) error {
	data, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return err
	}
	return writePEM(path, "PRIVATE KEY", data, 0o600)
}

// writePEM puts a file in the place of the one that was there, all of it at once.
func writePEM(path, kind string, data []byte, mode fs.FileMode) error {
	next := path + ".new"
	if err := os.WriteFile(next, pem.EncodeToMemory(&pem.Block{Type: kind, Bytes: data}), mode); err != nil {
		return err
	}
	return os.Rename(next, path)
}

func readPEM(path string) ([]byte, error) {
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	block, _ := pem.Decode(data)
	if block == nil {
		return nil, fmt.Errorf("%s holds no certificate or key", path)
	}
	return block.Bytes, nil
}

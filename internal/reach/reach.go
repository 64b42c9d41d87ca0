// Package reach bounds where the server itself connects to: printers, their cameras and pages, databases and the order
// desk. An address that somebody types, or a name that points elsewhere later, must not make it ask what only this
// machine, or its neighbours, may.
package reach

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"syscall"
	"time"

	"oddspool/core/refusal"
)

// A Guard says where to. Its zero value lets nothing through but private networks (RFC 1918, RFC 4193).
type Guard struct {
	Networks []netip.Prefix   // allowed beside them
	Exactly  []netip.AddrPort // and these: stand-ins that were started with this server
}

// Parse reads networks and addresses as -reach has them, such as "192.0.2.0/24, 198.51.100.7".
func Parse(text string) (networks []netip.Prefix, err error) {
	for part := range strings.SplitSeq(text, ",") {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		prefix, err := netip.ParsePrefix(part)
		if address, wrong := netip.ParseAddr(part); wrong == nil {
			prefix, err = netip.PrefixFrom(address, address.BitLen()), nil
		}
		if err != nil {
			return nil, fmt.Errorf("%q is no network; write it like 192.0.2.0/24, or one address", part)
		}
		networks = append(networks, prefix)
	}
	return networks, nil
}

// A ForbiddenError says that an address is not among those that may be reached.
type ForbiddenError struct{ Address netip.Addr }

func (e *ForbiddenError) Error() string { return e.Refusal().Error() }

// Refusal tells its kind and values.
func (e *ForbiddenError) Refusal() *refusal.Error {
	return forbidden.With(e.Address)
}

// Check returns a *ForbiddenError where an address and port may not be reached.
func (g *Guard) Check(to netip.AddrPort) error {
	address := to.Addr().Unmap().WithZone("")
	for _, one := range g.Exactly {
		if one.Addr().Unmap() == address && one.Port() == to.Port() {
			return nil
		}
	}
	for _, network := range g.Networks {
		if network.Contains(address) {
			return nil
		}
	}
	if address.IsPrivate() {
		return nil
	}
	return &ForbiddenError{address}
}

// Dialer returns a dialer that connects only to where the guard lets it: the address is judged that a name stands for
// at that moment. A nil guard lets everything through.
func (g *Guard) Dialer() *net.Dialer {
	dialer := &net.Dialer{Timeout: 5 * time.Second}
	if g != nil {
		dialer.ControlContext = func(_ context.Context, _, address string, _ syscall.RawConn) error {
			to, err := netip.ParseAddrPort(address)
			if err != nil {
				return fmt.Errorf("connect to %s: %w", address, err)
			}
			return g.Check(to)
		}
	}
	return dialer
}

// Transport returns a transport that connects only to where the guard lets it, as Dialer says.
func (g *Guard) Transport() *http.Transport {
	return &http.Transport{DialContext: g.Dialer().DialContext, TLSHandshakeTimeout: 5 * time.Second,
		IdleConnTimeout: 30 * time.Second}
}

// NoRedirects answers with a redirect as it is: nothing is asked elsewhere.
func NoRedirects(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }

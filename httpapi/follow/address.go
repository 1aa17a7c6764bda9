package follow

import (
	"fmt"
	"net"
	"net/netip"
	"slices"
	"strconv"
	"syscall"

	"handwerk/core/input"
)

// accepted is how the address of a gauge is said.
const accepted = "host:port in the shop's own network, like 192.168.1.40:4001"

// CheckAddress refuses what is no address of a gauge, and what stands outside the
// networks that are allowed, as far as it can be seen before it is called.
func (g *Gauges) CheckAddress(address string) error {
	host, port, err := net.SplitHostPort(address)
	if err != nil || host == "" {
		return input.At("address", accepted, "%q is no address", address)
	}
	if n, err := strconv.Atoi(port); err != nil || n < 1 || n > 65535 {
		return input.At("address", accepted, "%q is no port", port)
	}
	if at, err := netip.ParseAddr(host); err == nil && !g.allows(at) {
		return input.At("address", accepted,
			"%s is outside the private network; the setting HANDWERK_GAUGE_NETWORKS allows more", host)
	}
	return nil
}

func (g *Gauges) allows(at netip.Addr) bool {
	at = at.Unmap().WithZone("")
	return at.IsPrivate() || at.IsLoopback() || at.IsLinkLocalUnicast() ||
		slices.ContainsFunc(g.Networks, func(n netip.Prefix) bool { return n.Contains(at) })
}

// errOutside is a name that leads out of the allowed networks.
var errOutside = fmt.Errorf("the address leads outside the private network")

// onlyAllowed looks at the address a name has led to, just before it is called.
func (g *Gauges) onlyAllowed(_, address string, _ syscall.RawConn) error {
	at, err := netip.ParseAddrPort(address)
	if err != nil || !g.allows(at.Addr()) {
		return errOutside
	}
	return nil
}

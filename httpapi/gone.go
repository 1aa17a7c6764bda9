package httpapi

import (
	"context"
	"net"
	"syscall"
	"time"
)

// endWhenGone ends a piece of work when whoever asked for it has hung up: the
// server itself only notices when it writes the answer.
func endWhenGone(ctx context.Context, conn net.Conn, end func()) {
	look := time.NewTicker(200 * time.Millisecond)
	defer look.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-look.C:
			if hungUp(conn) {
				end()
				return
			}
		}
	}
}

// hungUp looks whether the other end closed a connection, and takes nothing
// off it. Of one that cannot be looked at it says no.
func hungUp(conn net.Conn) bool {
	under, ok := conn.(syscall.Conn)
	if !ok {
		return false
	}
	raw, err := under.SyscallConn()
	if err != nil {
		return true // closed on our side
	}
	gone := false
	err = raw.Control(func(fd uintptr) {
		n, _, err := syscall.Recvfrom(int(fd), make([]byte, 1), syscall.MSG_PEEK|syscall.MSG_DONTWAIT)
		gone = n == 0 && err == nil
	})
	return gone || err != nil
}

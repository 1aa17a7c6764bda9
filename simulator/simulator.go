// Package simulator ships stand-ins for the gauges of a shop: each sends lines
// over TCP as a serial-to-network adapter would, from a seed, so that the same
// stand-in does the same again. Their truth is invented.
package simulator

import (
	"context"
	"errors"
	"io"
	"math"
	"math/rand/v2"
	"net"
	"sync"
	"time"
)

// Device is a stand-in: the line that it sends as its nth one. A line has no end.
type Device interface {
	Line(n int) string
	// Every is the time between two lines.
	Every() time.Duration
}

// Kind of stand-in.
type Kind struct {
	Name  string
	Says  string // what it plays
	Gauge string // the kind of gauge that it stands for
	New   func(seed uint64) Device
}

// Kinds are all stand-ins there are.
func Kinds() []Kind {
	return []Kind{
		{
			"dial", "a dial indicator on a crank that is turned from quarter to quarter", "dial indicator",
			func(seed uint64) Device { return newDial(seed) },
		},
		{"depth", "a depth gauge set down, lifted, set down again", "depth gauge", func(seed uint64) Device {
			return newHeld(seed, 12, 8, depth)
		}},
		{"beam", "a beam wrench turning a preloaded pinion", "beam wrench", func(seed uint64) Device {
			return newHeld(seed, 1.2, 1.4, beam)
		}},
		{"torque", "a torque wrench with angle on one bolt after the other", "torque wrench", func(seed uint64) Device {
			return newHeld(seed, 40, 40, torque)
		}},
		{"scale", "a spring scale pulled at a lever until it moves", "spring scale", func(seed uint64) Device {
			return newHeld(seed, 25, 30, scale)
		}},
	}
}

// Serve sends a device's lines to whoever calls, each from its beginning, until ctx ends.
func Serve(ctx context.Context, at net.Listener, k Kind, seed uint64) error {
	var calls sync.WaitGroup
	defer calls.Wait()
	stop := context.AfterFunc(ctx, func() { _ = at.Close() })
	defer stop()
	for {
		conn, err := at.Accept()
		if ctx.Err() != nil {
			return nil
		}
		if errors.Is(err, net.ErrClosed) {
			return err
		}
		if err != nil {
			time.Sleep(tenth) // one caller's trouble, or too many of them
			continue
		}
		calls.Go(func() {
			defer func() { _ = conn.Close() }()
			send(ctx, conn, k.New(seed))
		})
	}
}

func send(ctx context.Context, to io.Writer, d Device) {
	tick := time.NewTicker(d.Every())
	defer tick.Stop()
	for n := 0; ; n++ {
		if _, err := io.WriteString(to, d.Line(n)+"\r\n"); err != nil {
			return
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}

// tenth of a second is how often the hand-held stand-ins send.
const tenth = 100 * time.Millisecond

// chance is the device's own at its nth line: the same whoever asks, and in any order.
func chance(seed uint64, n int) *rand.Rand { return rand.New(rand.NewPCG(seed, uint64(n))) }

// eased goes from 0 to 1 as a hand moves, from x = 0 to 1.
func eased(x float64) float64 { return (1 - math.Cos(math.Pi*max(0, min(1, x)))) / 2 }

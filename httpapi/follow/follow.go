// Package follow reads the gauges of the shop that speak, over TCP as a
// serial-to-network adapter gives them, and tells the screens that follow them
// what they read. A gauge is called while somebody follows it, and nothing is
// ever sent to it; of its answer nothing goes on but parsed readings.
package follow

import (
	"context"
	"net/netip"
	"sync"

	"handwerk/core/quantity"
)

// Source is a gauge that speaks.
type Source struct {
	ID         string
	Address    string // host:port
	Resolution quantity.Any
}

// Gauges are the lines of this process to gauges. The zero value is ready.
type Gauges struct {
	Networks []netip.Prefix // allowed besides the private ones

	mu    sync.Mutex
	lines map[Source]*line
}

// Screen follows one gauge.
type Screen struct {
	Heard <-chan Heard
	heard chan Heard
	line  *line
}

// screenHolds is how many tellings wait for a screen: three seconds of them.
const screenHolds = 64

// Follow calls a gauge, unless somebody follows it already, and gives what it says
// until the screen leaves.
func (g *Gauges) Follow(s Source) *Screen {
	g.mu.Lock()
	defer g.mu.Unlock()
	l := g.lines[s]
	if l == nil {
		ctx, hangUp := context.WithCancel(context.Background())
		l = &line{source: s, of: g, hangUp: hangUp, screens: map[*Screen]int{}, last: Heard{State: Calling}}
		if g.lines == nil {
			g.lines = map[Source]*line{}
		}
		g.lines[s] = l
		go l.run(ctx)
	}
	return l.join()
}

// Leave ends what a screen hears; the line of the last one is given up.
func (s *Screen) Leave() {
	g := s.line.of
	g.mu.Lock()
	defer g.mu.Unlock()
	if s.line.leave(s) == 0 && g.lines[s.line.source] == s.line {
		delete(g.lines, s.line.source)
		s.line.hangUp()
	}
}

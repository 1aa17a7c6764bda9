package follow

import (
	"context"
	"errors"
	"net"
	"os"
	"sync"
	"time"
)

// line is the connection to one gauge, shared by the screens that follow it.
type line struct {
	source Source
	of     *Gauges
	hangUp context.CancelFunc

	buffer [4 << 10]byte

	mu      sync.Mutex
	screens map[*Screen]int // readings that each was too slow for
	last    Heard           // how it stands, for a screen that joins
}

// How long is waited, and how much is read at once.
const (
	callTime  = 3 * time.Second
	againSoon = 500 * time.Millisecond
	againLate = 10 * time.Second
	still     = 2 * time.Second // without a word a gauge counts as silent
	// atOnce is what is read between two tellings; whoever sends more is held up by
	// the network, as long as it likes.
	atOnce = 64 << 10
)

func (l *line) join() *Screen {
	heard := make(chan Heard, screenHolds)
	s := &Screen{heard, heard, l}
	l.mu.Lock()
	defer l.mu.Unlock()
	l.screens[s] = 0
	heard <- l.last
	return s
}

func (l *line) leave(s *Screen) (left int) {
	l.mu.Lock()
	defer l.mu.Unlock()
	delete(l.screens, s)
	return len(l.screens)
}

// tell passes on to all screens; one that does not read is told how much it missed.
func (l *line) tell(h Heard) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.last = Heard{State: h.State, Says: h.Says}
	for s, missed := range l.screens {
		to := h
		to.Missed += missed
		select {
		case s.heard <- to:
			l.screens[s] = 0
		default:
			l.screens[s] = missed + len(h.Readings)
		}
	}
}

// run calls the gauge, again and again, until nobody follows it.
func (l *line) run(ctx context.Context) {
	e := newEar(l.source.Resolution)
	for wait := againSoon; ctx.Err() == nil; wait = min(2*wait, againLate) {
		spoke, err := l.listen(ctx, e)
		if ctx.Err() != nil {
			return
		}
		e.broke()
		l.tell(Heard{State: Lost, Says: whyLost(err)})
		if spoke {
			wait = againSoon
		}
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
	}
}

// whyLost is what a mechanic can check; what the network says goes no further.
func whyLost(err error) string {
	var dns *net.DNSError
	var timeout net.Error
	switch {
	case errors.Is(err, errOutside):
		return errOutside.Error()
	case errors.As(err, &dns):
		return "nobody knows its address: check the name"
	case errors.As(err, &timeout) && timeout.Timeout():
		return "it does not answer: check its cable and its power"
	case errors.As(err, new(*net.OpError)):
		return "it cannot be reached: check its cable and its power"
	}
	return "its line was closed: check its cable and its power"
}

// listen reads one connection to its end.
func (l *line) listen(ctx context.Context, e *ear) (spoke bool, err error) {
	d := net.Dialer{Timeout: callTime, Control: l.of.onlyAllowed}
	conn, err := d.DialContext(ctx, "tcp", l.source.Address)
	if err != nil {
		return false, err
	}
	stop := context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer stop()
	defer func() { _ = conn.Close() }()
	began, lastWord := time.Now(), time.Now()
	var lines splitter
	silent := false
	for {
		n, err := l.readFor(conn, func(chunk []byte) {
			at := time.Since(began).Seconds()
			lines.take(chunk, func(text string) { e.take(at, text) })
		})
		if n > 0 {
			spoke, silent, lastWord = true, false, time.Now()
		}
		if lines.open > endless {
			e.heard.Says = noReadings
		}
		if h, is := e.tell(); is {
			l.tell(h)
		}
		if err != nil {
			return spoke, err
		}
		if !silent && time.Since(lastWord) > still {
			silent = true
			l.tell(Heard{State: Silent, Says: "it says nothing: switch it on, or move it"})
		}
	}
}

// readFor reads what comes between two tellings. Whoever sends more than that holds
// up himself: the rest waits in the network.
func (l *line) readFor(conn net.Conn, each func(chunk []byte)) (n int, err error) {
	until := time.Now().Add(every)
	_ = conn.SetReadDeadline(until)
	for n < atOnce && err == nil {
		var m int
		m, err = conn.Read(l.buffer[:])
		n += m
		each(l.buffer[:m])
	}
	if errors.Is(err, os.ErrDeadlineExceeded) {
		err = nil
	}
	time.Sleep(time.Until(until))
	return n, err
}

package metrology

import "math"

// Settled is a moment at which a stream of readings had come to rest.
type Settled struct {
	At    float64 // seconds
	Value float64 // mean of the window
	N     int     // readings in it
}

// What counts as at rest.
const (
	settleWindow   = 0.4 // seconds
	settleReadings = 5
	settleBand     = 2.0  // resolutions, all readings of the window
	settleSlope    = 1.0  // resolutions a second, by least squares
	settleMost     = 2048 // readings of a window that are held; beyond them the oldest go
)

// Settler watches a stream and tells when it comes to rest: the last 0.4 s, five
// readings or more, lie within two resolutions and their least-squares slope is
// below one resolution a second. It tells it once, and again only after the
// stream has left the value by more than two resolutions. The zero value with a
// Resolution is ready; one unit throughout.
type Settler struct {
	Resolution float64

	window []timed
	began  float64 // of the stretch without a hole
	rests  bool
	at     float64 // the value it rests at
}

type timed struct{ at, value float64 }

// Take takes the next reading; the moment is not before the last one.
func (s *Settler) Take(at, value float64) (Settled, bool) {
	if n := len(s.window); n == 0 || beyond(at-s.window[n-1].at, settleWindow) {
		s.window, s.began = s.window[:0], at
	}
	s.window = append(s.window, timed{at, value})
	s.forget(at)
	if s.rests && beyond(math.Abs(value-s.at), settleBand*s.Resolution) {
		s.rests = false
	}
	if s.rests || beyond(settleWindow, at-s.began) || len(s.window) < settleReadings {
		return Settled{}, false
	}
	mean, slope, band := s.line()
	if beyond(band, settleBand*s.Resolution) || !beyond(settleSlope*s.Resolution, math.Abs(slope)) {
		return Settled{}, false
	}
	s.rests, s.at = true, mean
	return Settled{at, mean, len(s.window)}, true
}

// Break forgets what came before: the stream was lost, or out of the gauge's range.
func (s *Settler) Break() { s.window = s.window[:0] }

// forget drops what is older than the window.
func (s *Settler) forget(now float64) {
	old := max(0, len(s.window)-settleMost)
	for beyond(now-s.window[old].at, settleWindow) {
		old++
	}
	s.window = append(s.window[:0], s.window[old:]...)
}

// line is the window's mean, its slope by least squares and its band.
func (s *Settler) line() (mean, slope, band float64) {
	first, least, most := s.window[0], math.Inf(1), math.Inf(-1)
	n := float64(len(s.window))
	var t, v float64
	for _, r := range s.window {
		t += (r.at - first.at) / n
		v += (r.value - first.value) / n
		least, most = min(least, r.value), max(most, r.value)
	}
	var tt, tv float64
	for _, r := range s.window {
		dt := r.at - first.at - t
		tt += dt * dt
		tv += dt * (r.value - first.value - v)
	}
	if tt > 0 {
		slope = tv / tt
	}
	return first.value + v, slope, most - least
}

// beyond tells a above b by more than binary digits make of decimal ones.
func beyond(a, b float64) bool { return a-b > 1e-9*max(1, math.Abs(a), math.Abs(b)) }

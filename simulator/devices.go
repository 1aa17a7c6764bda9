package simulator

import (
	"fmt"
	"math"
	"time"
)

// dial is an indicator on a crank: a bore that is off, an arm that sags, a plunger
// that sticks when it turns round, and now and then a base that slips.
type dial struct {
	seed                uint64
	right, up, sag, lag float64 // mm
}

const (
	dialEvery = 20 * time.Millisecond
	dialMove  = 50 // lines of moving a quarter
	dialRest  = 60 // lines of resting at it
	dialNoise = 0.001
	dialSlip  = 0.15
	slipOneIn = 7 // turns
)

func newDial(seed uint64) *dial {
	c := chance(seed, -1)
	return &dial{
		seed: seed, right: 0.3*c.Float64() - 0.15, up: 0.3*c.Float64() - 0.15, sag: 0.02 + 0.03*c.Float64(),
		lag: 0.004,
	}
}

func (d *dial) Every() time.Duration { return dialEvery }

// Line says the reading and the part of the turn, clockwise from 12.
func (d *dial) Line(n int) string {
	const quarter = dialMove + dialRest
	turn, at := n/(4*quarter), n%(4*quarter)
	part := (float64(at/quarter) + eased(float64(at%quarter-dialRest)/dialMove)) / 4
	return fmt.Sprintf("%+.3f mm t=%.4f", d.reads(n, turn, part), math.Min(part, 0.9999))
}

// reads is what the dial shows: plus is the plunger going in, zeroed at 12.
func (d *dial) reads(n, turn int, part float64) float64 {
	sin, cos := math.Sincos(2 * math.Pi * part)
	v := d.up - (d.right*sin + d.up*cos) + d.sag*(1-cos)/2
	// The plunger lags behind where the bore comes toward it.
	if d.up*sin-d.right*cos < 0 {
		v -= d.lag
	}
	if chance(d.seed, -2-turn).IntN(slipOneIn) == 0 && part > 0.6 {
		v += dialSlip
	}
	return v + dialNoise*chance(d.seed, n).NormFloat64()
}

// held is a gauge in a hand: it sends ten lines a second of a truth that its seed hides.
type held struct {
	seed  uint64
	truth float64
	reads func(d held, n int) string
}

// newHeld hides a truth from least to least+range.
func newHeld(seed uint64, least, span float64, reads func(d held, n int) string) held {
	return held{seed, least + span*chance(seed, -1).Float64(), reads}
}

func (d held) Every() time.Duration { return tenth }
func (d held) Line(n int) string    { return d.reads(d, n) }

// noise is the line's own, and of the time that a hand sets the gauge on.
func (d held) noise(n int) float64    { return chance(d.seed, n).NormFloat64() }
func (d held) setting(of int) float64 { return chance(d.seed, -2-of).NormFloat64() }

// depth is set down beside a bearing: it comes down, rests, and is lifted. It is never
// down twice alike.
func depth(d held, n int) string {
	const cycle = 40
	at := n % cycle
	lifted := 30 * (1 - eased(float64(at)/8))
	if at > 32 {
		lifted = 30 * eased(float64(at-32)/8)
	}
	return fmt.Sprintf("%.2f mm", d.truth+0.01*d.setting(n/cycle)+lifted+0.002*d.noise(n))
}

// beam is a wrench on a pinion nut: it breaks away, then turns evenly round.
func beam(d held, n int) string {
	const cycle = 80
	at := n % cycle
	v := d.truth * (1 + 0.6*math.Exp(-float64(at-6)/3))
	if at < 6 {
		v = d.truth * 1.6 * eased(float64(at)/6)
	}
	if at > 70 {
		v = d.truth * (1 - eased(float64(at-70)/8))
	}
	round := 0.02 * math.Sin(float64(at)/6)
	return fmt.Sprintf("%.2f N·m", math.Max(0, v+round+0.01*d.noise(n)))
}

// torque is a wrench that shows how far it has turned since the joint was snug, as
// part of a turn; it holds what it reached until the next bolt.
func torque(d held, n int) string {
	const cycle = 40
	at := n % cycle
	reached := d.truth * (1 + 0.02*d.setting(n/cycle))
	stiff := 0.2 + 0.01*d.setting(-1-n/cycle) // of a turn to the torque
	part := eased(float64(at) / 20)
	status := ""
	if at >= 20 {
		status = " hold"
	}
	return fmt.Sprintf("%.1f N·m%s t=%.3f", reached*part*part, status, stiff*part)
}

// scale is pulled at a lever: it rises, the lever gives, it falls. Moving on takes less.
func scale(d held, n int) string {
	const cycle = 60
	at := n % cycle
	pull := d.truth * (1 + 0.03*d.setting(n/cycle))
	v := 0.82 * pull
	switch {
	case at < 20:
		v = pull * eased(float64(at)/20)
	case at > 50:
		v = 0.82 * pull * (1 - eased(float64(at-50)/8))
	}
	return fmt.Sprintf("%.1f N", math.Max(0, v+0.05*d.noise(n)))
}

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

// depth is a gauge set down beside a bearing: it comes down, rests, and is lifted.
type depth struct {
	seed uint64
	mm   float64
}

func newDepth(seed uint64) *depth { return &depth{seed, 12 + 8*chance(seed, -1).Float64()} }

func (d *depth) Every() time.Duration { return tenth }

func (d *depth) Line(n int) string {
	const cycle = 40
	at := n % cycle
	lifted := 30 * (1 - eased(float64(at)/8))
	if at > 32 {
		lifted = 30 * eased(float64(at-32)/8)
	}
	set := 0.01 * chance(d.seed, -2-n/cycle).NormFloat64() // never down twice alike
	return fmt.Sprintf("%.2f mm", d.mm+set+lifted+0.002*chance(d.seed, n).NormFloat64())
}

// beam is a wrench on a pinion nut: it breaks away, then turns evenly round.
type beam struct {
	seed uint64
	nm   float64
}

func newBeam(seed uint64) *beam { return &beam{seed, 1.2 + 1.4*chance(seed, -1).Float64()} }

func (d *beam) Every() time.Duration { return tenth }

func (d *beam) Line(n int) string {
	const cycle = 80
	at := n % cycle
	v := d.nm * (1 + 0.6*math.Exp(-float64(at-6)/3))
	if at < 6 {
		v = d.nm * 1.6 * eased(float64(at)/6)
	}
	if at > 70 {
		v = d.nm * (1 - eased(float64(at-70)/8))
	}
	round := 0.02 * math.Sin(float64(at)/6)
	return fmt.Sprintf("%.2f N·m", math.Max(0, v+round+0.01*chance(d.seed, n).NormFloat64()))
}

// torque is a wrench that shows how far it has turned since the joint was snug, as
// part of a turn; it holds what it reached until the next bolt.
type torque struct {
	seed uint64
	nm   float64
}

func newTorque(seed uint64) *torque { return &torque{seed, 40 + 40*chance(seed, -1).Float64()} }

func (d *torque) Every() time.Duration { return tenth }

func (d *torque) Line(n int) string {
	const cycle = 40
	at, bolt := n%cycle, chance(d.seed, -2-n/cycle)
	reached := d.nm * (1 + 0.02*bolt.NormFloat64())
	stiff := 0.18 + 0.04*bolt.Float64() // of a turn to the torque
	part := eased(float64(at) / 20)
	status := ""
	if at >= 20 {
		status = " hold"
	}
	return fmt.Sprintf("%.1f N·m%s t=%.3f", reached*part*part, status, stiff*part)
}

// scale is a spring scale pulled at a lever: it rises, the lever gives, it falls.
type scale struct {
	seed uint64
	n    float64
}

func newScale(seed uint64) *scale { return &scale{seed, 25 + 30*chance(seed, -1).Float64()} }

func (d *scale) Every() time.Duration { return tenth }

func (d *scale) Line(n int) string {
	const cycle = 60
	at := n % cycle
	pull := d.n * (1 + 0.03*chance(d.seed, -2-n/cycle).NormFloat64())
	v := 0.82 * pull // moving on takes less
	switch {
	case at < 20:
		v = pull * eased(float64(at)/20)
	case at > 50:
		v = 0.82 * pull * (1 - eased(float64(at-50)/8))
	}
	return fmt.Sprintf("%.1f N", math.Max(0, v+0.05*chance(d.seed, n).NormFloat64()))
}

package practice

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// axle is a ring and pinion in its housing. Millimetres. The gap between the
// flanks opens along their normal: by 2·sin φ·sin Γ for each millimetre the ring
// goes away and closes by 2·sin φ·cos Γ for each the pinion comes in; flanks are
// curved, so that it opens a little more than in proportion. The dial along the
// pitch circle reads the gap over cos φ·cos ψ. Under preload the housing gives
// and lets the ring go by a share of it.
type axle struct {
	level             string
	phi, psi, gamma   float64
	shim, place, play float64 // right pinion shim, right place of the ring, sum of packs without play
	wobble, phase     float64 // of the ring
	gives, curved     float64
	dirt, capsWrong   bool
	slipAfter, reads  int
	slip              float64
	now               packs
	trap              string // what was wrong as it came
}

type packs struct{ pinion, left, right float64 }

// stand is how it really stands.
type stand struct{ depth, backlash, play float64 }

const (
	axleDepth    = 100.0
	axleDepthTol = 0.03
	axleBacklash = 0.20
	axleLow      = 0.15
	axleHigh     = 0.25
	axlePlayLow  = -0.12
	axlePlayHigh = -0.04
	axleRunout   = 0.08
	axleStep     = 0.01
	axleShimStep = 0.02
	axleNoise    = 0.004
	axleDirt     = 0.07
	axleRead     = 1.0
	axleBuild    = 35.0
	patternFar   = 0.15 // mm of error at which a pattern has gone far
)

var axleReads = []string{"depth", "backlash", "side_play", "slack", "turning", "runout", "pattern", "zero"}

func newAxle(draw *rand.Rand, level string) *axle {
	deg := func(mean, half float64) float64 { return between(draw, mean-half, mean+half) * math.Pi / 180 }
	a := &axle{level: level, phi: deg(20, 1.5), psi: deg(34, 4), gamma: deg(75, 4), shim: between(draw, 1.2, 1.8),
		place: between(draw, -0.25, 0.25), play: between(draw, 4.7, 5.3), wobble: between(draw, 0, 0.02),
		phase: between(draw, 0, 2*math.Pi), gives: between(draw, 0, 0.1), curved: between(draw, 0, 0.3), slipAfter: -1,
		now: packs{1.5, 2.5, 2.5}}
	if level == Trap {
		switch draw.IntN(3) {
		case 0:
			a.dirt, a.trap = true, "dirt under the ring"
		case 1:
			a.capsWrong, a.trap = true, "bearing caps swapped"
		default:
			a.slipAfter, a.slip, a.trap = 2+draw.IntN(3), between(draw, 0.05, 0.1), "the indicator slipped"
		}
	}
	return a
}

func (a *axle) given() Given {
	return Given{
		Reads: axleReads, Dial: Dial{mm(axleStep)}, Minutes: GivenMinutes{axleRead, axleBuild},
		Required: mm(axleDepth), DepthTol: mm(axleDepthTol), BacklashMin: mm(axleLow), BacklashMax: mm(axleHigh),
		PlayMin: mm(axlePlayLow), PlayMax: mm(axlePlayHigh), RunoutMax: mm(axleRunout), Geometry: &Geometry{20, 35, 75},
		Direction: "tangential", RingSide: "left", ShimSide: "head", ShimStep: mm(axleShimStep),
		AsFound: &Assembly{PinionShim: mm(1.5), Left: mm(2.5), Right: mm(2.5)},
	}
}

func (a *axle) check(c *input.Checks, at string, act Act) {
	switch {
	case act.Order != "":
		c.Add(at+".order", "read or assemble", "an axle orders nothing")
	case act.Assemble != nil:
		x := act.Assemble
		if len(x.Dowels) > 0 {
			c.Add(at+".assemble.dowels", "pinion_shim, left, right", "an axle has none")
		}
		for _, p := range []struct {
			name string
			said Length
		}{{"pinion_shim", x.PinionShim}, {"left", x.Left}, {"right", x.Right}} {
			if p.said.IsSaid() {
				input.Within(c, at+".assemble."+p.name, p.said, 0, 10*quantity.Millimetre, true)
			}
		}
	default:
		only(c, at+".read", act.Read, axleReads)
		if (act.Read == "backlash" || act.Read == "runout") && act.At == nil {
			c.Add(at+".at", "the place on the ring as on a clock", "missing")
		}
		if act.At != nil {
			input.Number(c, at+".at", float64(*act.At), 0, 12)
		}
	}
}

// stands is how it would really stand with these packs.
func (a *axle) stands(p packs) stand {
	s := stand{play: a.play - (p.left + p.right)}
	place := (p.right - p.left) / 2
	if s.play < 0 {
		place += a.gives * -s.play
	}
	pinion := p.pinion - a.shim
	gap := 2 * math.Sin(a.phi) * (math.Sin(a.gamma)*(place-a.place) - math.Cos(a.gamma)*pinion)
	gap *= 1 + a.curved*gap
	s.depth = axleDepth - pinion
	s.backlash = max(0, axleBacklash+gap/(math.Cos(a.phi)*math.Cos(a.psi)))
	return s
}

func (s stand) within() bool {
	return math.Abs(s.depth-axleDepth) <= axleDepthTol && s.backlash >= axleLow && s.backlash <= axleHigh &&
		s.play >= axlePlayLow && s.play <= axlePlayHigh
}

func (a *axle) done() bool { return a.stands(a.now).within() && !a.dirt && !a.capsWrong }

func (a *axle) do(act Act, noise *rand.Rand) Answer {
	if act.Assemble != nil {
		return a.build(act.Assemble)
	}
	if act.Read == "zero" {
		a.reads, a.slipAfter = 0, -1
		return Answer{Says: "the indicator stands firm", Minutes: 2}
	}
	if act.Read == "pattern" {
		return a.pattern()
	}
	a.reads++
	err := 0.0
	if a.level != Clean {
		err = axleNoise * noise.NormFloat64()
	}
	if act.Read == "turning" {
		return Answer{
			Reading: quantity.Say(quantity.Torque(toStep(a.turning()+10*err, 0.05)), quantity.Named("N·m")).Any,
			Minutes: 3,
		}
	}
	v, minutes := a.reading(act)
	if a.slipAfter >= 0 && a.reads > a.slipAfter {
		err += a.slip
	}
	return Answer{Reading: mm(toStep(max(0, v+err), axleStep)).Any, Minutes: minutes}
}

// reading is what a gauge would show without noise, and the minutes it takes.
func (a *axle) reading(act Act) (v, minutes float64) {
	s := a.stands(a.now)
	switch act.Read {
	case "depth":
		return s.depth, 6
	case "side_play":
		return s.play, 3
	case "slack":
		return a.play, 20
	case "runout":
		return a.swing(float64(*act.At)) + a.wobble + axleDirt, axleRead
	}
	return s.backlash + a.swing(float64(*act.At)), axleRead
}

// swing is how far the ring stands off its mean at a place.
func (a *axle) swing(clock float64) float64 {
	size := a.wobble
	if a.dirt {
		size += axleDirt
	}
	return size * math.Sin(clock*math.Pi/6+a.phase)
}

// turning is the torque that turns it: seals, and what the preload adds.
func (a *axle) turning() float64 {
	t := 1.2 + 12*max(0, -a.stands(a.now).play)
	if a.capsWrong {
		t += 2.5
	}
	return t
}

func (a *axle) build(x *Assembly) Answer {
	a.now = a.now.with(x)
	a.dirt = a.dirt && !x.Clean
	a.capsWrong = a.capsWrong != x.SwapCaps
	return Answer{Says: "it is together, caps at torque", Minutes: axleBuild}
}

func (p packs) with(x *Assembly) packs {
	for _, one := range []struct {
		is   *float64
		said Length
	}{{&p.pinion, x.PinionShim}, {&p.left, x.Left}, {&p.right, x.Right}} {
		if one.said.IsSaid() {
			*one.is = inMM(one.said)
		}
	}
	return p
}

// pattern is what the compound shows: the pinion too far out bears to the face on
// both sides, drive to the heel and coast to the toe; too much backlash bears to
// the heel, a little to the face. Source: common practice.
func (a *axle) pattern() Answer {
	s := a.stands(a.now)
	out, wide := (s.depth-axleDepth)/patternFar, (s.backlash-axleBacklash)/patternFar
	mark := func(side float64) *Mark {
		u, v := math.Tanh(0.5*side*out+0.6*wide), math.Tanh(0.9*out+0.2*wide)
		return &Mark{u, v, 0.6 * (1 - 0.4*math.Abs(u)), 0.6 * (1 - 0.4*math.Abs(v))}
	}
	return Answer{Drive: mark(1), Coast: mark(-1), Minutes: 10}
}

// best is the assembly that stands in the middle of all limits, as the shims allow.
func (a *axle) best() packs {
	middle := -(axlePlayLow + axlePlayHigh) / 2
	sum, half := a.play+middle, a.place-a.gives*middle
	shim := func(v float64) float64 { return toStep(v, axleShimStep) }
	return packs{shim(a.shim), shim(sum/2 - half), shim(sum/2 + half)}
}

func (p packs) assembly() *Assembly {
	return &Assembly{PinionShim: mm(p.pinion), Left: mm(p.left), Right: mm(p.right)}
}

func (a *axle) bestPath() []Act {
	path := []Act{{Read: "depth"}, {Read: "slack"}}
	round := []Act{reads("backlash", 12), reads("backlash", 3), reads("backlash", 6), reads("backlash", 9)}
	if a.slipAfter >= 0 {
		path = append([]Act{{Read: "zero"}}, path...)
	}
	path = append(path, round...)
	if !a.done() {
		build := a.best().assembly()
		build.Clean, build.SwapCaps = a.dirt, a.capsWrong
		path = append(append(append(path, Act{Assemble: build}), Act{Read: "depth"}), round...)
	}
	return append(path, Act{Read: "turning"}, Act{Read: "pattern"})
}

func (a *axle) better(act Act) (Act, string) {
	if act.Assemble == nil {
		return Act{}, ""
	}
	x := a.best().assembly()
	x.Clean, x.SwapCaps = a.dirt, a.capsWrong
	move := Act{Assemble: x}
	is, would := a.stands(a.now.with(act.Assemble)), a.stands(a.best())
	switch {
	case a.done():
		return Act{Read: "pattern"}, "it already stood within all its limits"
	case a.dirt && !act.Assemble.Clean:
		return move, "there was dirt under the ring: it swings more than it may, and no shim puts that right"
	case a.capsWrong && !act.Assemble.SwapCaps:
		return move, "the bearing caps were swapped: it turned too hard for its preload"
	case is.within():
		return Act{}, ""
	}
	return move, off(is, would)
}

// off says the largest miss of an assembly, in shares of its tolerance.
func off(is, would stand) string {
	type miss struct {
		share float64
		says  string
	}
	middle := (axlePlayLow + axlePlayHigh) / 2
	worst := miss{}
	for _, m := range []miss{
		{
			math.Abs(is.depth-axleDepth) / axleDepthTol,
			fmt.Sprintf("the head stood %.2f mm from its depth; with this shim %.2f mm", math.Abs(is.depth-axleDepth),
				math.Abs(would.depth-axleDepth)),
		},
		{
			math.Abs(is.backlash-axleBacklash) / (axleHigh - axleBacklash),
			fmt.Sprintf("backlash became %.2f mm; with these packs %.2f mm", is.backlash, would.backlash),
		},
		{
			math.Abs(is.play-middle) / (axlePlayHigh - middle),
			fmt.Sprintf("side play became %.2f mm, less than 0 is preload; with these packs %.2f mm", is.play, would.play),
		},
	} {
		if cmp.Compare(m.share, worst.share) > 0 {
			worst = m
		}
	}
	return worst.says
}

func (a *axle) truth() Truth {
	s, best := a.stands(a.now), a.best()
	return Truth{
		Within:     a.done(),
		Trap:       a.trap,
		PinionShim: some(best.pinion),
		LeftPack:   some(best.left),
		RightPack:  some(best.right),
		Depth:      some(s.depth),
		Backlash:   some(s.backlash),
		Play:       some(s.play),
		K:          new(2 * math.Sin(a.phi) * math.Sin(a.gamma) / (math.Cos(a.phi) * math.Cos(a.psi))),
	}
}

func reads(what string, at float64) Act {
	n := quantity.Number(at)
	return Act{Read: what, At: &n}
}

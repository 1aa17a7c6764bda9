package practice

import (
	"fmt"
	"math"
	"math/rand/v2"

	"handwerk/core/input"
)

// housing is a bell housing on two dowels, read from the crankshaft. Millimetres;
// right and up seen from behind. It moves as a rigid body: the holes go over the
// ends of the dowels as well as two points can, the middle exactly and the line
// between them exactly turned.
type housing struct {
	level      string
	x, y       float64  // of the bore with plain dowels
	radius     float64  // of the bore
	sag        float64  // of the arm
	pins       [2]point // dowels, from the crankshaft
	shown      [2]point // as the sheet gives them, from the bore
	offset     [2]point // of the dowels in it now
	slipAfter  int      // readings until the indicator slips; -1 never
	slip, turn float64  // how far; how far the mark stands from the top, in hours
	reads      int      // since the dial was set up
	bore       point    // now
}

// point is a place or a move in millimetres.
type point struct{ x, y float64 }

func (p point) plus(q point) point    { return point{p.x + q.x, p.y + q.y} }
func (p point) minus(q point) point   { return point{p.x - q.x, p.y - q.y} }
func (p point) times(f float64) point { return point{p.x * f, p.y * f} }
func (p point) size() float64         { return math.Hypot(p.x, p.y) }

const (
	thou          = 0.0254
	housingStep   = 0.01 // of the dial
	housingLimit  = 5 * thou
	housingBind   = 2 * thou
	holesGive     = 1.1 * housingBind // a hole is no gauge: a tenth more goes on with a mallet
	housingNoise  = 0.004
	housingRead   = 1.0  // minutes
	housingRefit  = 45.0 // minutes
	dowelStepDeg  = 15.0
	dowelsNoticed = 1.0 // how well the sheet knows where dowels sit
)

var dowelSizes = []float64{7 * thou, 14 * thou, 21 * thou}

func newHousing(draw *rand.Rand, level string) *housing {
	away := between(draw, 6*thou, 14*thou)
	at := between(draw, 0, 2*math.Pi)
	h := &housing{level: level, x: away * math.Sin(at), y: away * math.Cos(at), radius: between(draw, 60, 80),
		sag: between(draw, 0.01, 0.04), slipAfter: -1}
	for i, angle := range []float64{between(draw, 280, 310), between(draw, 100, 130)} {
		far := between(draw, 150, 190)
		s, c := math.Sincos(angle * math.Pi / 180)
		h.pins[i] = point{h.x + far*s, h.y + far*c}
		h.shown[i] = point{math.Round(far * s), math.Round(far * c)}
		if level == Clean {
			h.shown[i] = point{far * s, far * c}
		}
	}
	if level == Trap {
		if draw.IntN(2) == 0 {
			h.slipAfter, h.slip = 2+draw.IntN(3), between(draw, 4*thou, 8*thou)
		} else {
			h.turn = 1
		}
	}
	h.bore = point{h.x, h.y}
	return h
}

func (h *housing) given() Given {
	g := Given{
		Reads:       []string{"dial", "sag", "zero"},
		Dial:        Dial{mm(housingStep)},
		StepDeg:     dowelStepDeg,
		MaxBind:     mm(housingBind),
		LimitOffset: mm(housingLimit),
		Positive:    "plunger_in",
		Minutes:     GivenMinutes{housingRead, housingRefit},
	}
	for _, p := range h.shown {
		g.Dowels = append(g.Dowels, pointOf(p.x, p.y))
	}
	for _, s := range dowelSizes {
		g.DowelSizes = append(g.DowelSizes, mm(s))
	}
	return g
}

func (h *housing) check(c *input.Checks, at string, a Act) {
	switch {
	case a.Order != "":
		c.Add(at+".order", "read or assemble", "a housing orders nothing")
	case a.Assemble != nil && len(a.Assemble.Dowels) != 2:
		c.Add(at+".assemble.dowels", "both dowels", "%d dowels", len(a.Assemble.Dowels))
	case a.Assemble != nil:
		for i, d := range a.Assemble.Dowels {
			here := fmt.Sprintf("%s.assemble.dowels[%d]", at, i)
			if v := inMM(d.Size); !d.Size.IsSaid() || v < 0 || v > 1 {
				c.Add(here+".size", "0 to 1 mm", "%s cannot be", d.Size)
			}
			input.Number(c, here+".clock", d.Clock, 0, 12)
		}
	default:
		only(c, at+".read", a.Read, h.given().Reads)
		if a.Read == "dial" && a.At == nil {
			c.Add(at+".at", "the clock position, 12 at the top", "missing")
		}
		if a.At != nil {
			input.Number(c, at+".at", float64(*a.At), 0, 12)
		}
	}
}

func (h *housing) do(a Act, noise *rand.Rand) Answer {
	if a.Assemble != nil {
		return h.refit(a.Assemble.Dowels)
	}
	switch a.Read {
	case "zero":
		h.reads, h.slipAfter = 0, -1
		return Answer{Says: "the indicator stands firm and reads 0 at the top", Minutes: 2}
	case "sag":
		return Answer{
			Reading: mm(toStep(h.sag+h.noise(noise), housingStep)).Any,
			Says:    "on a straight rod, at the bottom",
			Minutes: 5,
		}
	}
	h.reads++
	return Answer{Reading: mm(toStep(h.dial(float64(*a.At))+h.noise(noise), housingStep)).Any, Minutes: housingRead}
}

// dial is what it shows at a clock position, set to 0 at the top: plunger in is more.
func (h *housing) dial(clock float64) float64 {
	t := (clock + h.turn) * math.Pi / 6
	top := h.turn * math.Pi / 6
	shows := func(t float64) float64 {
		return -(h.bore.x*math.Sin(t) + h.bore.y*math.Cos(t)) + h.sag*(1-math.Cos(t))/2
	}
	v := shows(t) - shows(top)
	if h.slipAfter >= 0 && h.reads > h.slipAfter {
		v += h.slip
	}
	return v
}

func (h *housing) noise(noise *rand.Rand) float64 {
	if h.level == Clean {
		return 0
	}
	return housingNoise * noise.NormFloat64()
}

// refit puts the housing on other dowels, when its holes go over them.
func (h *housing) refit(dowels []Dowel) Answer {
	var offset [2]point
	for i, d := range dowels {
		s, c := math.Sincos(d.Clock * math.Pi / 6)
		offset[i] = point{s, c}.times(inMM(d.Size))
	}
	bore, bind := h.on(offset)
	if math.Abs(bind) > holesGive {
		return Answer{
			Says: fmt.Sprintf(
				"it does not go on: the holes are %.2f mm off the dowels; the old ones are back in",
				math.Abs(bind),
			),
			Minutes: housingRefit,
		}
	}
	h.bore, h.offset, h.reads = bore, offset, 0
	return Answer{Says: "it is on, at its torque", Minutes: housingRefit}
}

// on is where the bore comes to stand, and how much farther apart the ends of the
// dowels are than the holes.
func (h *housing) on(offset [2]point) (bore point, bind float64) {
	ends := [2]point{h.pins[0].plus(offset[0]), h.pins[1].plus(offset[1])}
	was, is := h.pins[1].minus(h.pins[0]), ends[1].minus(ends[0])
	turned := math.Atan2(is.y, is.x) - math.Atan2(was.y, was.x)
	s, c := math.Sincos(turned)
	arm := point{h.x, h.y}.minus(h.pins[0].plus(h.pins[1]).times(0.5))
	arm = point{c*arm.x - s*arm.y, s*arm.x + c*arm.y}
	return ends[0].plus(ends[1]).times(0.5).plus(arm), is.size() - was.size()
}

func (h *housing) done() bool { return h.bore.size() <= housingLimit }

// best tries every pair of dowels in steps and takes the one that leaves least.
func (h *housing) best() (dowels []Dowel, left float64) {
	if (point{h.x, h.y}).size() <= housingLimit {
		return []Dowel{{mm(0), 12}, {mm(0), 12}}, point{h.x, h.y}.size()
	}
	type choice struct {
		d Dowel
		p point
	}
	all := []choice{{Dowel{mm(0), 12}, point{}}}
	for _, size := range dowelSizes {
		for deg := 0.0; deg < 360; deg += dowelStepDeg {
			s, c := math.Sincos(deg * math.Pi / 180)
			clock := deg / 30
			if clock == 0 {
				clock = 12
			}
			all = append(all, choice{Dowel{mm(size), clock}, point{s, c}.times(size)})
		}
	}
	left = math.Inf(1)
	for _, a := range all {
		for _, b := range all {
			if bore, bind := h.on([2]point{a.p, b.p}); math.Abs(bind) <= housingBind && bore.size() < left-1e-9 {
				left, dowels = bore.size(), []Dowel{a.d, b.d}
			}
		}
	}
	return dowels, left
}

func (h *housing) bestPath() []Act {
	round := func() (acts []Act) {
		for _, clock := range []float64{12, 3, 6, 9, 12} {
			acts = append(acts, reads("dial", clock))
		}
		return acts
	}
	path := append([]Act{{Read: "sag"}}, round()...)
	if h.done() {
		return path
	}
	dowels, _ := h.best()
	return append(append(path, Act{Assemble: &Assembly{Dowels: dowels}}), round()...)
}

func (h *housing) better(a Act) (Act, string) {
	if a.Assemble == nil {
		return Act{}, ""
	}
	dowels, left := h.best()
	move := Act{Assemble: &Assembly{Dowels: dowels}}
	if h.done() {
		return Act{Read: "sag"}, "the bore already stood within its limit: nothing had to be moved"
	}
	var offset [2]point
	for i, d := range a.Assemble.Dowels {
		s, c := math.Sincos(d.Clock * math.Pi / 6)
		offset[i] = point{s, c}.times(inMM(d.Size))
	}
	bore, bind := h.on(offset)
	switch {
	case math.Abs(bind) > holesGive:
		return move, fmt.Sprintf(
			"these two stand %.2f mm off the holes; this pair goes on and leaves %.2f mm",
			math.Abs(bind),
			left,
		)
	case bore.size() > left+housingStep:
		return move, fmt.Sprintf("it left %.2f mm of offset; this pair leaves %.2f mm", bore.size(), left)
	}
	return Act{}, ""
}

func (h *housing) truth() Truth {
	t := Truth{Within: h.done(), Right: some(h.x), Up: some(h.y), Radius: some(h.radius), Sag: some(h.sag),
		Now: new(pointOf(h.bore.x, h.bore.y))}
	for _, p := range h.pins {
		t.Dowels = append(t.Dowels, pointOf(p.x-h.x, p.y-h.y))
	}
	switch {
	case h.turn != 0:
		t.Trap = "the mark on the flywheel stood an hour past the top"
	case h.level == Trap:
		t.Trap = "the indicator slipped: the reading back at the top told it"
	}
	return t
}

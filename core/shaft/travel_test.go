package shaft

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
)

func mmOf(v float64) Length {
	return quantity.Say(quantity.Length(v)*quantity.Millimetre, quantity.Named("mm"))
}

func at(x, y float64) Point { return Point{mmOf(x), mmOf(y)} }

// stroke is a line of one piece with an axle that something guides.
func stroke(l Linkage) TravelIn {
	return TravelIn{
		Output: LineJoint{at(0, 0), -3}, Axle: at(1200, -200), Pinion: LineJoint{at(900, -180), -4},
		Linkage: l, Bump: mmOf(80), Droop: mmOf(100),
	}
}

var links = Linkage{Kind: "links",
	Lower: &Link{at(600, -230), at(1190, -260)}, Upper: &Link{at(700, -60), at(1220, -90)}}

// circles are the two places at distances r and s from a and b.
func circles(a xy, r float64, b xy, s float64) [2]xy {
	d := b.minus(a)
	apart := d.size()
	along := (r*r - s*s + apart*apart) / (2 * apart)
	up := math.Sqrt(max(0, r*r-along*along))
	foot := xy{a.x + d.x*along/apart, a.y + d.y*along/apart}
	return [2]xy{{foot.x - d.y*up/apart, foot.y + d.x*up/apart}, {foot.x + d.y*up/apart, foot.y - d.x*up/apart}}
}

// An axle on four links against a construction: for an angle of the lower link the upper
// joint is where two circles meet, and the axle's centre is carried along; the travel that
// comes out is asked, and must give the same pinion.
func TestLinksAgainstCircles(t *testing.T) {
	t.Parallel()
	mm := func(x, y float64) xy { return xy{x / 1e3, y / 1e3} }
	lowerBody, lower, upperBody, upper := mm(600, -230), mm(1190, -260), mm(700, -60), mm(1220, -90)
	axle, pinion := mm(1200, -200), mm(900, -180)
	for deg := -7.0; deg <= 7; deg += 0.5 {
		l := lowerBody.plus(lower.minus(lowerBody).turned(deg * math.Pi / 180))
		meet := circles(l, upper.minus(lower).size(), upperBody, upper.minus(upperBody).size())
		u := meet[0]
		if meet[1].minus(upper).size() < u.minus(upper).size() {
			u = meet[1]
		}
		was, is := upper.minus(lower), u.minus(l)
		turn := math.Atan2(was.x*is.y-was.y*is.x, was.dot(is))
		centre := l.plus(axle.minus(lower).turned(turn))
		want := centre.plus(pinion.minus(axle).turned(turn))
		z := (centre.y - axle.y) * 1e3
		in := stroke(links)
		in.Bump, in.Droop = mmOf(max(0, z)), mmOf(max(0, -z))
		out, err := Travel(in)
		require.NoError(t, err)
		end := out.Positions[0]
		if z > 0 {
			end = out.Positions[len(out.Positions)-1]
		}
		assert.InDelta(t, z, end.Travel.Value, 1e-6)
		assert.InDelta(t, 1e3*want.size(), end.Length.Value, 1e-5)
		assert.InDelta(t, -4+turn*180/math.Pi, end.Pinion, 1e-6)
		assert.InDelta(t, math.Abs(math.Atan(want.y/want.x)*180/math.Pi+3), end.Angles[0], 1e-6)
	}
}

// A leaf's end against the bent leaf itself, x = l·sin θ/θ and y = l·(1 − cos θ)/θ: the
// arc of three quarters of its length follows it to a tenth of a millimetre.
func TestALeafCarriesItsEndAlongAnArc(t *testing.T) {
	t.Parallel()
	const length = 630.0
	for theta := -0.35; theta <= 0.35; theta += 0.05 {
		if math.Abs(theta) < 1e-9 {
			continue
		}
		x, y := length*math.Sin(theta)/theta, length*(1-math.Cos(theta))/theta
		in := stroke(Linkage{Kind: "leaf", Eye: &Point{mmOf(0), mmOf(0)}, Length: mmOf(length)})
		in.Output = LineJoint{at(-500, 0), 0}
		in.Axle, in.Pinion = at(length, 0), LineJoint{at(length, 0), 0}
		in.Bump, in.Droop = mmOf(max(0, y)), mmOf(max(0, -y))
		out, err := Travel(in)
		require.NoError(t, err)
		end := out.Positions[0]
		if y > 0 {
			end = out.Positions[len(out.Positions)-1]
		}
		assert.InDelta(t, math.Hypot(x+500, y), end.Length.Value, 0.12)
	}
}

// The extremes hold over the whole stroke, not only where it is drawn: tried on a grid of
// four thousand for an arm, whose places are written out.
func TestTheWorstOfAnArm(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		px, py := rapid.Float64Range(200, 700).Draw(t, "x"), rapid.Float64Range(-300, 0).Draw(t, "y")
		in := stroke(Linkage{Kind: "arm", Pivot: &Point{mmOf(px), mmOf(py)}})
		in.Plane = &Plane{at(200, -260), at(600, -280), mmOf(30)}
		out, err := Travel(in)
		if err != nil {
			t.Fatal(err)
		}
		ax, ay := 1200-px, -200-py
		long, short, angle := 0.0, math.Inf(1), 0.0
		for i := range 4001 {
			z := -100 + 180*float64(i)/4000
			nx := math.Sqrt(ax*ax + ay*ay - (ay+z)*(ay+z))
			turn := math.Atan2(ay+z, nx) - math.Atan2(ay, ax)
			dx, dy := -300.0, 20.0
			x := px + nx + dx*math.Cos(turn) - dy*math.Sin(turn)
			y := py + ay + z + dx*math.Sin(turn) + dy*math.Cos(turn)
			long, short = max(long, math.Hypot(x, y)), min(short, math.Hypot(x, y))
			slope := math.Atan(y/x) * 180 / math.Pi
			angle = max(angle, math.Abs(slope+3), math.Abs(-4+turn*180/math.Pi-slope))
		}
		for _, pair := range [][2]float64{{long, out.Worst.Longest.Value}, {short, out.Worst.Shortest.Value},
			{angle, out.Worst.Angle.Deg}, {long - short, out.Needs.Slip.Value}} {
			if math.Abs(pair[0]-pair[1]) > 0.01 {
				t.Fatalf("%v, not %v", pair[1], pair[0])
			}
		}
		for _, p := range out.Positions {
			if p.Length.Value > out.Worst.Longest.Value+1e-9 ||
				p.Clearance.Value < out.Worst.Clearance.Value.Value-1e-9 {
				t.Fatalf("worse than the worst at %s", p.Travel)
			}
		}
	})
}

func TestALineSaysWhatIsWrong(t *testing.T) {
	t.Parallel()
	raw, err := examples.ReadFile("examples/propshaft-travel.json")
	require.NoError(t, err)
	var in TravelIn
	require.NoError(t, json.Unmarshal(raw, &in))
	good, err := Travel(in)
	require.NoError(t, err)
	assert.Len(t, good.Positions, 41, "40 even steps, one of them at ride height")
	for _, c := range []struct {
		fault  string
		change func(*TravelIn)
	}{
		{"angle", func(in *TravelIn) { *in.Limit = 2 }},
		{"too_long", func(in *TravelIn) { in.Shaft.Length = mmOf(950) }},
		{"too_short", func(in *TravelIn) { in.Shaft.Slip = mmOf(1) }},
		{"clearance", func(in *TravelIn) { in.Plane.From, in.Plane.To = at(100, -60), at(500, -60) }},
	} {
		var bad TravelIn
		require.NoError(t, json.Unmarshal(raw, &bad))
		c.change(&bad)
		out, err := Travel(bad)
		require.NoError(t, err)
		assert.Contains(t, out.AtFault, c.fault)
		assert.EqualValues(t, "out", out.Verdict)
	}
	for field, change := range map[string]func(*TravelIn){
		"droop: the linkage":   func(in *TravelIn) { in.Linkage, in.Droop = links, mmOf(900) },
		"bump: the linkage":    func(in *TravelIn) { in.Bump = mmOf(700) },
		"linkage.length":       func(in *TravelIn) { in.Linkage.Length = mmOf(400) },
		"linkage.kind":         func(in *TravelIn) { in.Linkage.Kind = "air" },
		"linkage.pivot":        func(in *TravelIn) { in.Linkage = Linkage{Kind: "arm"} },
		"linkage.upper":        func(in *TravelIn) { in.Linkage = Linkage{Kind: "links", Lower: links.Lower} },
		"pinion: both are one": func(in *TravelIn) { in.Pinion.Point = in.Output.Point },
		"output.angle_deg":     func(in *TravelIn) { in.Output.Angle = 61 },
	} {
		var bad TravelIn
		require.NoError(t, json.Unmarshal(raw, &bad))
		change(&bad)
		_, err := Travel(bad)
		require.ErrorContains(t, err, field)
	}
}

// With a centre bearing there are three joints, and only the rear shaft slips.
func TestALineInTwoPieces(t *testing.T) {
	t.Parallel()
	in := stroke(links)
	centre := at(400, -30)
	in.Centre = &centre
	out, err := Travel(in)
	require.NoError(t, err)
	ride := out.Positions[0]
	for _, p := range out.Positions {
		require.Len(t, p.Angles, 3)
		assert.InDelta(t, ride.Angles[0], p.Angles[0], 1e-9, "the front shaft stays")
		if p.Travel.Value == 0 {
			assert.InDelta(t, math.Hypot(500, 150), p.Length.Value, 1e-6)
			assert.InDelta(t, 0, p.Slip.Value, 1e-9)
		}
	}
}

// Where the mark is from which all is measured does not matter, nor in which unit: moved
// as a whole, and told in inches, the line does the same.
func TestALineIsTheSameFromAnyMark(t *testing.T) {
	t.Parallel()
	plain := stroke(links)
	plain.Plane = &Plane{at(200, -260), at(600, -280), mmOf(30)}
	want, err := Travel(plain)
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		dx, dy := rapid.Float64Range(-900, 900).Draw(t, "x"), rapid.Float64Range(-900, 900).Draw(t, "y")
		inch := quantity.Named("in")
		move := func(p Point) Point {
			said := func(v Length, by float64) Length {
				return quantity.Say(v.SI()+quantity.Length(by)*quantity.Millimetre, inch)
			}
			return Point{said(p.X, dx), said(p.Y, dy)}
		}
		in := plain
		in.Output.Point, in.Axle, in.Pinion.Point = move(in.Output.Point), move(in.Axle), move(in.Pinion.Point)
		in.Linkage = Linkage{Kind: "links", Lower: &Link{move(links.Lower.Body), move(links.Lower.Axle)},
			Upper: &Link{move(links.Upper.Body), move(links.Upper.Axle)}}
		in.Plane = &Plane{move(plain.Plane.From), move(plain.Plane.To), plain.Plane.Radius}
		got, err := Travel(in)
		if err != nil {
			t.Fatal(err)
		}
		for i, p := range got.Positions {
			w := want.Positions[i]
			for _, off := range []float64{p.Length.Value - w.Length.Value, p.Clearance.Value - w.Clearance.Value,
				p.Pinion - w.Pinion, p.Angles[0] - w.Angles[0], p.Angles[1] - w.Angles[1]} {
				if math.Abs(off) > 1e-5 {
					t.Fatalf("at %s: %v, not %v", p.Travel, p, w)
				}
			}
		}
	})
}

func BenchmarkTravel(b *testing.B) {
	in := stroke(links)
	in.Plane = &Plane{at(200, -260), at(600, -280), mmOf(30)}
	for b.Loop() {
		if _, err := Travel(in); err != nil {
			b.Fatal(err)
		}
	}
}

// Package drivelinetest looks at drawings of drivelines as an eye would.
package drivelinetest

import (
	"math"
	"testing"

	"handwerk/core/driveline"
)

const hair = 1e-6

// Apart: all is on the paper, nothing lies on another, every line joins its two
// ends and runs through nothing else.
func Apart(t *testing.T, d driveline.Drawing) {
	t.Helper()
	at := map[string]driveline.Place{}
	for i, a := range d.Places {
		at[a.Name] = a
		if !(a.X >= 0 && a.Y >= 0 && a.X <= d.Width && a.Y <= d.Height) {
			t.Fatalf("%s is not on the paper", a.Name)
		}
		for _, b := range d.Places[i+1:] {
			if math.Max(math.Abs(a.X-b.X), math.Abs(a.Y-b.Y)) < (a.Size+b.Size)/2-hair {
				t.Fatalf("%s lies on %s", a.Name, b.Name)
			}
		}
	}
	joined(t, d, at)
}

// joined: every line joins its two ends, and runs through nothing else.
func joined(t *testing.T, d driveline.Drawing, at map[string]driveline.Place) {
	t.Helper()
	for _, line := range d.Lines {
		ends := [2][2]float64{line.Points[0], line.Points[len(line.Points)-1]}
		for _, name := range []string{line.Shaft, line.Member} {
			if p := [2]float64{at[name].X, at[name].Y}; ends[0] != p && ends[1] != p {
				t.Fatalf("%s is not joined by %s to %s", name, line.Shaft, line.Member)
			}
		}
		for _, p := range d.Places {
			if p.Name != line.Shaft && p.Name != line.Member && enters(line.Points, p) {
				t.Fatalf("%s to %s runs through %s", line.Shaft, line.Member, p.Name)
			}
		}
	}
}

func enters(line [][2]float64, p driveline.Place) bool {
	half := p.Size/2 - 0.05
	for k := 1; k < len(line); k++ {
		a, b := line[k-1], line[k]
		if math.Max(a[0], b[0]) > p.X-half && math.Min(a[0], b[0]) < p.X+half && math.Max(a[1], b[1]) > p.Y-half &&
			math.Min(a[1], b[1]) < p.Y+half {
			return true
		}
	}
	return false
}

// Uncrossed: no line crosses another, or runs along it, unless they part from one place.
func Uncrossed(t *testing.T, d driveline.Drawing) {
	t.Helper()
	for i, one := range d.Lines {
		for _, other := range d.Lines[i+1:] {
			if one.Shaft == other.Shaft || one.Member == other.Member {
				continue // they part where they are joined
			}
			for k := 1; k < len(one.Points); k++ {
				for j := 1; j < len(other.Points); j++ {
					a, b, c, e := one.Points[k-1], one.Points[k], other.Points[j-1], other.Points[j]
					if crosses(a, b, c, e) || along(a, b, c, e) {
						t.Fatalf("%s to %s crosses %s to %s", one.Shaft, one.Member, other.Shaft, other.Member)
					}
				}
			}
		}
	}
}

func level(a, b [2]float64) bool { return math.Abs(a[1]-b[1]) < hair }

// crosses: one piece upright, the other level, with a point inside both.
func crosses(a, b, c, d [2]float64) bool {
	if level(a, b) {
		a, b, c, d = c, d, a, b
	}
	if level(a, b) || !level(c, d) {
		return false
	}
	return within(a[0], c[0], d[0]) && within(c[1], a[1], b[1])
}

func within(x, a, b float64) bool { return x > math.Min(a, b)+hair && x < math.Max(a, b)-hair }

// along: both on one straight line for more than a point.
func along(a, b, c, d [2]float64) bool {
	i := 0 // the way they run
	if !level(a, b) {
		i = 1
	}
	if level(a, b) != level(c, d) || math.Abs(a[1-i]-c[1-i]) > hair {
		return false
	}
	return math.Min(math.Max(a[i], b[i]), math.Max(c[i], d[i]))-math.Max(math.Min(a[i], b[i]),
		math.Min(c[i], d[i])) > hair
}

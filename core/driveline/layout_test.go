package driveline

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// axleAlone is an axle alone, as a sheet has it.
func axleAlone(prefix, from string) []Member {
	return []Member{
		{ID: prefix + "ring", Kind: gear, A: from, B: prefix + "carrier", Ratio: 4.1},
		{ID: prefix + "diff", Kind: differential, Carrier: prefix + "carrier", A: prefix + "left-side", B: prefix + "right-side"},
		{ID: prefix + "left-shaft", Kind: shaft, A: prefix + "left-side", B: prefix + "left"},
		{ID: prefix + "right-shaft", Kind: shaft, A: prefix + "right-side", B: prefix + "right"},
	}
}

func placesOf(d Drawing) map[string]Place {
	at := map[string]Place{}
	for _, p := range d.Places {
		at[p.Name] = p
	}
	return at
}

// As a hand would draw it: the propshaft comes from the front at the left, the
// left wheel is below, the right one above, all on one line across.
func TestAnAxleIsDrawnAsItLies(t *testing.T) {
	d, err := Draw(DrawIn{axleAlone("", "propshaft")})
	require.NoError(t, err)
	at := placesOf(d)
	assert.Less(t, at["propshaft"].X, at["ring"].X)
	assert.Less(t, at["ring"].X, at["diff"].X)
	assert.InDelta(t, at["diff"].X, at["left"].X, 0)
	assert.InDelta(t, at["diff"].X, at["right"].X, 0)
	assert.Greater(t, at["left"].Y, at["diff"].Y)
	assert.Less(t, at["right"].Y, at["diff"].Y)
	assert.Equal(t, "end", at["left"].What)
	assert.True(t, at["left-shaft"].Across)
	assert.Equal(t, "shaft", at["carrier"].What)
}

// The engine stands above the parting, the front axle at the left, the rear
// ones at the right, one behind the other.
func TestATruckIsDrawnAsItLies(t *testing.T) {
	members := []Member{
		{ID: "box", Kind: gear, A: "engine", B: "divider", Ratio: 3},
		{ID: "inter", Kind: differential, Carrier: "divider", A: "rear-out", B: "front-out"},
		{ID: "front-prop", Kind: joint, A: "front-out", B: "front-in"},
		{ID: "rear-prop", Kind: joint, A: "rear-out", B: "tandem-rear"},
		{ID: "tandem", Kind: differential, Carrier: "tandem-rear", A: "rear-1-in", B: "rear-2-in"},
	}
	members = append(members, axleAlone("front-", "front-in")...)
	members = append(members, axleAlone("rear-1-", "rear-1-in")...)
	members = append(members, axleAlone("rear-2-", "rear-2-in")...)
	d, err := Draw(DrawIn{members})
	require.NoError(t, err)
	at := placesOf(d)
	assert.InDelta(t, at["inter"].X, at["engine"].X, 0)
	assert.Less(t, at["engine"].Y, at["inter"].Y)
	assert.Less(t, at["front-diff"].X, at["inter"].X)
	assert.Greater(t, at["rear-1-diff"].X, at["inter"].X)
	assert.Greater(t, at["rear-2-diff"].X, at["inter"].X)
	tidy(t, d, true)
}

// tidy: nothing lies on another, no line runs through what it does not join
// and, of a tree, none crosses another.
func tidy(t *testing.T, d Drawing, tree bool) {
	t.Helper()
	for i, a := range d.Places {
		if !(a.X >= 0 && a.Y >= 0 && a.X <= d.Width && a.Y <= d.Height) {
			t.Fatalf("%s is not on the paper", a.Name)
		}
		for _, b := range d.Places[i+1:] {
			apart := math.Max(math.Abs(a.X-b.X), math.Abs(a.Y-b.Y))
			if apart < (a.Size+b.Size)/2-1e-6 {
				t.Fatalf("%s lies on %s", a.Name, b.Name)
			}
		}
	}
	if !tree {
		return
	}
	at := placesOf(d)
	for i, one := range d.Lines {
		for _, p := range d.Places {
			if p.Name == one.Shaft || p.Name == one.Member {
				continue
			}
			for k := 1; k < len(one.Points); k++ {
				if through(one.Points[k-1], one.Points[k], p) {
					t.Fatalf("%s to %s runs through %s", one.Shaft, one.Member, p.Name)
				}
			}
		}
		for _, other := range d.Lines[i+1:] {
			if one.Shaft == other.Shaft || one.Member == other.Member {
				continue
			}
			for k := 1; k < len(one.Points); k++ {
				for j := 1; j < len(other.Points); j++ {
					if crosses(one.Points[k-1], one.Points[k], other.Points[j-1], other.Points[j]) {
						t.Fatalf("%s–%s crosses %s–%s", one.Shaft, one.Member, other.Shaft, other.Member)
					}
				}
			}
		}
		from, to := at[one.Shaft], at[one.Member]
		first, last := one.Points[0], one.Points[len(one.Points)-1]
		require.True(t, first == [2]float64{from.X, from.Y} || last == [2]float64{from.X, from.Y}, "%s is joined", from.Name)
		require.True(t, first == [2]float64{to.X, to.Y} || last == [2]float64{to.X, to.Y}, "%s is joined", to.Name)
	}
}

// through: a piece of line, upright or level, enters the middle of a place.
func through(a, b [2]float64, p Place) bool {
	half := p.Size/2 - 0.05
	return math.Max(a[0], b[0]) > p.X-half && math.Min(a[0], b[0]) < p.X+half &&
		math.Max(a[1], b[1]) > p.Y-half && math.Min(a[1], b[1]) < p.Y+half
}

// crosses: one piece upright, the other level, with a point inside both.
func crosses(a, b, c, d [2]float64) bool {
	const e = 1e-6
	if math.Abs(a[0]-b[0]) > e { // a-b is level
		a, b, c, d = c, d, a, b
	}
	if math.Abs(a[0]-b[0]) > e || math.Abs(c[1]-d[1]) > e {
		return false
	}
	return a[0] > math.Min(c[0], d[0])+e && a[0] < math.Max(c[0], d[0])-e &&
		c[1] > math.Min(a[1], b[1])+e && c[1] < math.Max(a[1], b[1])-e
}

// randomLine grows a tree of members at random, and may close it to a ring.
func randomLine(r *rand.Rand, rings bool) []Member {
	shafts := []string{[]string{"engine", "input", "propshaft", "x"}[r.IntN(4)]}
	var members []Member
	fresh := func() string {
		name := fmt.Sprintf("%s%s%d", []string{"", "front-", "rear-"}[r.IntN(3)], []string{"", "left-", "right-"}[r.IntN(3)], len(shafts))
		shafts = append(shafts, name)
		return name
	}
	for n := 1 + r.IntN(maxMembers); len(members) < n; {
		from := shafts[r.IntN(len(shafts))]
		id := fmt.Sprintf("m%d", len(members))
		kind := []string{shaft, joint, gear, clutch, oneWay, viscous, differential}[r.IntN(7)]
		m := Member{ID: id, Kind: kind, A: from, B: ""}
		switch {
		case kind == differential:
			m.Carrier, m.A, m.B = from, fresh(), fresh()
		case rings && r.IntN(8) == 0 && len(shafts) > 2:
			m.B = shafts[r.IntN(len(shafts))]
			if m.B == m.A {
				continue
			}
		default:
			m.B = fresh()
		}
		members = append(members, m)
	}
	return members
}

func TestFiveHundredLinesAreDrawnTidily(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 11))
	for i := range 500 {
		rings := i%5 == 4
		d, err := Draw(DrawIn{randomLine(r, rings)})
		require.NoError(t, err)
		tidy(t, d, !rings)
	}
}

func BenchmarkDrawSixtyMembers(b *testing.B) {
	r := rand.New(rand.NewPCG(3, 5))
	var members []Member
	for len(members) < maxMembers {
		members = randomLine(r, false)
	}
	for b.Loop() {
		if _, err := Draw(DrawIn{members}); err != nil {
			b.Fatal(err)
		}
	}
}

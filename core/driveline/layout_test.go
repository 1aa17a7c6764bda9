package driveline_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "handwerk/core/driveline"
	"handwerk/core/driveline/drivelinetest"
)

const maxMembers = 60

// axleAlone is an axle alone, as a sheet has it.
func axleAlone(prefix, from string) []Member {
	return []Member{
		{ID: prefix + "ring", Kind: "gear", A: from, B: prefix + "carrier", Ratio: 4.1},
		{ID: prefix + "diff", Kind: "differential", Carrier: prefix + "carrier", A: prefix + "left-side",
			B: prefix + "right-side"},
		{ID: prefix + "left-shaft", Kind: "shaft", A: prefix + "left-side", B: prefix + "left"},
		{ID: prefix + "right-shaft", Kind: "shaft", A: prefix + "right-side", B: prefix + "right"},
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
	t.Parallel()
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
	t.Parallel()
	members := []Member{
		{ID: "box", Kind: "gear", A: "engine", B: "divider", Ratio: 3},
		{ID: "inter", Kind: "differential", Carrier: "divider", A: "rear-out", B: "front-out"},
		{ID: "front-prop", Kind: "joint", A: "front-out", B: "front-in"},
		{ID: "rear-prop", Kind: "joint", A: "rear-out", B: "tandem-rear"},
		{ID: "tandem", Kind: "differential", Carrier: "tandem-rear", A: "rear-1-in", B: "rear-2-in"},
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
	drivelinetest.Apart(t, d)
	drivelinetest.Uncrossed(t, d)
}

// randomLine grows a tree of members at random, and may close it to a ring.
func randomLine(r *rand.Rand, rings bool) []Member {
	shafts := []string{[]string{"engine", "input", "propshaft", "x"}[r.IntN(4)]}
	var members []Member
	fresh := func() string {
		name := fmt.Sprintf("%s%s%d", []string{"", "front-", "rear-"}[r.IntN(3)],
			[]string{"", "left-", "right-"}[r.IntN(3)], len(shafts))
		shafts = append(shafts, name)
		return name
	}
	for n := 1 + r.IntN(maxMembers); len(members) < n; {
		from := shafts[r.IntN(len(shafts))]
		id := fmt.Sprintf("m%d", len(members))
		kind := []string{"shaft", "joint", "gear", "clutch", "one_way", "viscous", "differential"}[r.IntN(7)]
		m := Member{ID: id, Kind: kind, A: from, B: ""}
		switch {
		case kind == "differential":
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

// rings counts what closes one: edges beyond those of a tree, by Euler.
func rings(members []Member) int {
	parts := map[string]string{}
	var of func(string) string
	of = func(s string) string {
		if parts[s] == "" || parts[s] == s {
			return s
		}
		return of(parts[s])
	}
	closing := 0
	for _, m := range members {
		for _, end := range []string{m.Carrier, m.A, m.B} {
			switch a, b := of("member "+m.ID), of(end); {
			case end == "":
			case a == b:
				closing++
			default:
				parts[b] = a
			}
		}
	}
	return closing
}

func TestFiveHundredLinesAreDrawnTidily(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(7, 11))
	closed := 0
	for i := range 500 {
		members := randomLine(r, i%3 == 2)
		d, err := Draw(DrawIn{members})
		require.NoError(t, err)
		drivelinetest.Apart(t, d)
		n := rings(members)
		if n < 2 { // more may have to cross each other
			drivelinetest.Uncrossed(t, d)
		}
		closed += n
	}
	assert.Greater(t, closed, 100, "rings were among them")
}

func BenchmarkDrawSixtyMembers(b *testing.B) {
	for name, rings := range map[string]bool{"tree": false, "with rings": true} {
		b.Run(name, func(b *testing.B) {
			r := rand.New(rand.NewPCG(3, 5))
			var members []Member
			for len(members) < maxMembers {
				members = randomLine(r, rings)
			}
			for b.Loop() {
				if _, err := Draw(DrawIn{members}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

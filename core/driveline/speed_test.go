package driveline

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
)

// truck is a six-wheel driveline of 40 members: three axles with hub gears and
// split shafts, two lockable centre differentials, a two-range case.
func truck() In {
	members := []Member{
		{ID: "main-clutch", Kind: clutch, A: "engine", B: "input"},
		{ID: "gearbox", Kind: gear, A: "input", B: "box-out", Ratio: 3},
		{ID: "case", Kind: gear, A: "box-out", B: "case-in", Ratio: 2},
		{
			ID: "centre", Kind: differential, Carrier: "case-in", A: "front-out", B: "back-out", Split: 0.4,
			EngagedBy: "centre-lock",
		},
		{ID: "front-propshaft", Kind: joint, A: "front-out", B: "front-prop"},
		{ID: "through", Kind: joint, A: "back-out", B: "divider-in"},
		{ID: "divider", Kind: differential, Carrier: "divider-in", A: "mid-prop", B: "rear-out",
			EngagedBy: "divider-lock"},
		{ID: "rear-propshaft", Kind: joint, A: "rear-out", B: "rear-prop"},
		{ID: "pump-clutch", Kind: clutch, A: "box-out", B: "pump", EngagedBy: "pump"},
		{ID: "pump-shaft", Kind: shaft, A: "pump", B: "pump-end"},
	}
	for _, name := range []string{"front", "mid", "rear"} {
		members = append(members, axle(name, false)...)
		for _, side := range []string{"left", "right"} {
			w := name + "-" + side
			members = append(
				members, Member{ID: w + "-hub", Kind: gear, A: w, B: w + "-hub", Ratio: 3},
				Member{ID: w + "-stub", Kind: shaft, A: w + "-hub", B: w + "-flange"},
				Member{ID: w + "-joint", Kind: joint, A: w + "-flange", B: w + "-wheel"},
			)
		}
	}
	ground := []string{}
	for _, name := range []string{"front", "mid", "rear"} {
		ground = append(ground, name+"-left-wheel", name+"-right-wheel")
	}
	drive := Observation{
		Says: "drives, locks out", Turned: "engine", By: "engine", Engine: "on", Ground: ground,
		Moved: append(wheels("still", ground...), Motion{"rear-prop", "same"}),
	}
	in := drive
	in.Says, in.Locks, in.Moved = "drives, locks in", []string{"centre-lock", "divider-lock"}, wheels("same", ground...)
	return In{Members: members, Observations: []Observation{drive, in,
		{
			Says: "one wheel turned", Turned: "rear-left-wheel", Held: []string{"engine"},
			Moved: []Motion{{"rear-right-wheel", "opposite"}},
		}}}
}

func BenchmarkDoubleFailures40Members(b *testing.B) {
	in := truck()
	require.Len(b, in.Members, 40)
	for b.Loop() {
		if _, err := Driveline(in); err != nil {
			b.Fatal(err)
		}
	}
}

// The worst that the bounds allow still answers: 60 members, 12 of them
// splitting, 30 observations that all speak, of which the last alone refutes.
func BenchmarkTheWorstQuestion(b *testing.B) {
	in := truck()
	in.Observations = in.Observations[2:]
	for i := range 5 {
		in.Members = append(in.Members, Member{ID: fmt.Sprint("v", i), Kind: viscous, A: "box-out",
			B: fmt.Sprint("rig", i)})
	}
	for i := len(in.Members); i < 60; i++ {
		in.Members = append(
			in.Members,
			Member{
				ID: fmt.Sprint("s", i), Kind: clutch, EngagedBy: "pump", A: fmt.Sprint("x", i), B: fmt.Sprint("y", i),
			},
		)
	}
	quiet := in.Observations[0]
	quiet.Moved = []Motion{{"rear-left-wheel", "same"}}
	for range 28 {
		in.Observations = append(in.Observations, quiet)
	}
	last := quiet
	last.Moved = []Motion{{"rear-right-wheel", "still"}}
	in.Observations = append(in.Observations[1:], last)
	for b.Loop() {
		if _, err := Driveline(in); err != nil {
			b.Fatal(err)
		}
	}
}

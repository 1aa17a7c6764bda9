package gearing

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

func choiceOf(t require.TestingT) ChoiceIn {
	raw, err := examples.ReadFile("examples/gear-choice.json")
	require.NoError(t, err)
	var in ChoiceIn
	require.NoError(t, json.Unmarshal(raw, &in))
	return in
}

// Goal seek against every combination worked out by hand, in km/h and rpm, with the
// tyres' circumferences as figures.
func TestTheNearestGearsAgainstBruteForce(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := choiceOf(t)
		turn := map[string]float64{}
		for i, c := range []float64{rapid.Float64Range(1.8, 2.6).Draw(t, "tyre"), rapid.Float64Range(1.8, 2.6).Draw(t, "other")} {
			name := in.Tyres[i].Name
			turn[name] = c
			in.Tyres[i].Tyre = Tyre{Circumference: quantity.Say(quantity.Length(c), quantity.Named("m"))}
		}
		rpm := rapid.Float64Range(1500, 3500).Draw(t, "rpm")
		in.Wanted[0].Engine = quantitytest.Said[quantity.Rotation](t, fmt.Sprintf("%.3f rpm", rpm))
		rpm = in.Wanted[0].Engine.Value
		crawl := rapid.Float64Range(40, 110).Draw(t, "crawl")
		in.Wanted[1].Ratio = crawl
		out, err := ChooseGears(in)
		if err != nil {
			t.Fatal(err)
		}
		finals := map[string]float64{"4.10": 4.1, "3.73": 3.7273, "3.54": 3.5385}
		top, first := map[string]float64{
			"four gears": 1,
			"five gears": 0.82,
		}, map[string]float64{
			"four gears": 4.23,
			"five gears": 4.6,
		}
		low := map[string]float64{"as it is": 2.72, "low set": 4.33}
		miss := func(p Picked) (worst, sum float64) {
			n := 100 / 3.6 / turn[p.Tyre] * 60 * top[p.Set] * finals[p.Final]
			true_ := turn[p.Tyre] / finals[p.Final] / (turn["as it is"] / 4.1)
			all := []float64{math.Abs(n/rpm - 1), math.Max(0, 1-first[p.Set]*low[p.Range]*finals[p.Final]/crawl),
				math.Max(0, math.Abs(true_-1)-0.02)}
			return max(all[0], all[1], all[2]), all[0] + all[1] + all[2]
		}
		best := math.Inf(1)
		for set := range top {
			for final := range finals {
				for rng := range low {
					for tyre := range turn {
						worst, _ := miss(Picked{set, final, rng, tyre})
						best = math.Min(best, worst)
					}
				}
			}
		}
		if out.Tried != 24 || math.Abs(out.Best[0].Score-100*best) > 1e-7 {
			t.Fatalf("best %v, not %v of %d", out.Best[0].Score, 100*best, out.Tried)
		}
		before := -1.0
		for _, b := range append(out.Best, *out.Present) {
			worst, sum := miss(b.Picked)
			if math.Abs(b.Score-100*worst) > 1e-7 || math.Abs(b.Sum-100*sum) > 1e-7 {
				t.Fatalf("%v scores %v and %v", b, 100*worst, 100*sum)
			}
		}
		for _, b := range out.Best {
			if b.Score < before-1e-9 {
				t.Fatal("the ranks fall")
			}
			before = b.Score
		}
	})
}

func TestWhatIsAloneInTheListStays(t *testing.T) {
	t.Parallel()
	in := choiceOf(t)
	in.Wanted = []Wanted{{Kind: SpeedometerWithin, Percent: 2}}
	out, err := ChooseGears(in)
	require.NoError(t, err)
	assert.True(t, out.Met)
	assert.Empty(t, out.Best[0].Changes, "of all that meet it, what is in it")
	assert.Equal(t, "what is in it meets all that is wanted", out.Says)

	in.Wanted = []Wanted{{Kind: SpeedAt, Gear: "5", Engine: quantitytest.Said[quantity.Rotation](t, "2000 rpm"),
		Road: quantitytest.Said[quantity.Speed](t, "90 km/h")}}
	out, err = ChooseGears(in)
	require.NoError(t, err)
	assert.Equal(t, []string{"four gears"}, out.LeftOut)
	assert.Equal(t, 12, out.Tried)
	assert.Nil(t, out.Present, "what is in it has no fifth")
}

func TestAListSaysWhatIsWrong(t *testing.T) {
	t.Parallel()
	for field, change := range map[string]func(*ChoiceIn){
		"sets[0].gears[1]":     func(in *ChoiceIn) { in.Sets[0].Gears[1].Ratio = 5 },
		"sets[0].gears[0]":     func(in *ChoiceIn) { in.Sets[0].Gears[0].Ratio = 0 },
		"finals[1].name":       func(in *ChoiceIn) { in.Finals[1].Name = "4.10" },
		"tyres[1].name":        func(in *ChoiceIn) { in.Tyres[1].Name = " " },
		"tyres[0].size":        func(in *ChoiceIn) { in.Tyres[0].Size = "999/99 R99" },
		"present.final":        func(in *ChoiceIn) { in.Present.Final = "none" },
		"present.range":        func(in *ChoiceIn) { in.Ranges = nil },
		"wanted":               func(in *ChoiceIn) { in.Wanted = nil },
		"wanted[0].kind":       func(in *ChoiceIn) { in.Wanted[0].Kind = "quiet" },
		"wanted[0].road_speed": func(in *ChoiceIn) { in.Wanted[0].Road = Speed{} },
		"ranges[0].low":        func(in *ChoiceIn) { in.Ranges[0].Low = new(101.0) },
		"10 000 combinations":  func(in *ChoiceIn) { many(in, 10001) },
		"one or more":          func(in *ChoiceIn) { in.Tyres = nil },
		"wanted[2].percent":    func(in *ChoiceIn) { in.Wanted[2].Percent = -1 },
	} {
		in := choiceOf(t)
		change(&in)
		_, err := ChooseGears(in)
		require.ErrorContains(t, err, field)
	}
}

// many fills the finals until there are so many combinations.
func many(in *ChoiceIn, n int) {
	in.Sets, in.Ranges, in.Tyres = in.Sets[:1], in.Ranges[:1], in.Tyres[:1]
	in.Finals = in.Finals[:1]
	for i := 1; i < n; i++ {
		in.Finals = append(in.Finals, Gear{Name: fmt.Sprint("x", i), Ratio: 3 + float64(i)/1e4})
	}
}

func BenchmarkChooseGears(b *testing.B) {
	in := choiceOf(b)
	grow := func(n int, add func(i int)) {
		for i := range n {
			add(i)
		}
	}
	grow(8, func(i int) { in.Sets = append(in.Sets, NamedSet{fmt.Sprint("set ", i), in.Sets[1].Gears}) })
	grow(22, func(i int) {
		in.Finals = append(in.Finals, Gear{Name: fmt.Sprint("final ", i), Ratio: 3 + float64(i)/20})
	})
	grow(6, func(i int) {
		in.Ranges = append(in.Ranges, Case{Name: fmt.Sprint("case ", i), Low: new(2 + float64(i)/3)})
	})
	grow(3, func(i int) { in.Tyres = append(in.Tyres, NamedTyre{fmt.Sprint("tyre ", i), in.Tyres[1].Tyre}) })
	for b.Loop() {
		if _, err := ChooseGears(in); err != nil {
			b.Fatal(err)
		}
	}
}

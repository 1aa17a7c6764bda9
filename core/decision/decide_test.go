package decision

import (
	"math"
	"math/rand/v2"
	"testing"

	"handwerk/core/quantity"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"
)

func tri(low, likely, high quantity.Number) Range { return Range{low, &likely, high} }

func fixed(v quantity.Number) Range { return Range{Low: v, High: v} }

func option(id string) Option {
	return Option{
		ID: id, Says: id, Parts: tri(300, 400, 900), Hours: tri(8, 10, 20), Waiting: Range{Low: 1, High: 5},
		Fail:     Chance{Low: 0.1, High: 0.1},
		FailCost: fixed(1000),
	}
}

// The draws against gonum's triangular distribution, used independently, and
// the closed form of its mean and variance.
func TestTriangularDraws(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(3, 3))
	r := tri(2, 3, 9)
	var draws []float64
	for range 40000 {
		draws = append(draws, r.draw(rng))
	}
	reference := distuv.NewTriangle(2, 9, 3, nil)
	mean, variance := stat.MeanVariance(draws, nil)
	assert.InDelta(t, reference.Mean(), mean, 4*reference.StdDev()/200)
	assert.InEpsilon(t, reference.Variance(), variance, 0.03)
	assert.InDelta(t, (2.0+3+9)/3, reference.Mean(), 1e-12)
}

// Monte Carlo against the closed form of a sum of independent ranges, within
// five of its own standard errors.
func TestMeanCostAgainstTheClosedForm(t *testing.T) {
	t.Parallel()
	out, err := Decide(In{Options: []Option{option("rebuild")}, Rate: 60, DayCost: 50, Seed: 5})
	require.NoError(t, err)
	hours := (8.0 + 10 + 20) / 3
	want := (300.0+400+900)/3 + hours*60 + 50*(3+hours/hoursPerDay) + 0.1*1000
	got := out.Options[0]
	assert.InDelta(t, want, got.Mean, 5*got.Error)
	assert.LessOrEqual(t, got.P10, got.P50)
	assert.LessOrEqual(t, got.P50, got.P90)
	assert.Less(t, got.Days, got.DaysP80)
}

// The p80 of an even range of waiting alone is its 80 % point.
func TestTheDateToPromise(t *testing.T) {
	t.Parallel()
	o := Option{
		ID: "exchange", Says: "exchange", Parts: fixed(1500), Hours: fixed(0), Waiting: Range{Low: 2, High: 12},
		Fail:     Chance{},
		FailCost: fixed(0),
	}
	out, err := Decide(In{Options: []Option{o}, Deadline: 7})
	require.NoError(t, err)
	assert.InDelta(t, 10, out.Options[0].DaysP80, 0.1)
	assert.InDelta(t, 0.5, *out.Options[0].OnTime, 0.02)
}

// Work promised before is done while one waits for parts, and then adds only
// what it takes beyond that; common practice.
func TestWorkPromisedBefore(t *testing.T) {
	t.Parallel()
	o := Option{ID: "rebuild", Says: "rebuild", Parts: fixed(0), Hours: fixed(12), Waiting: fixed(3), Fail: Chance{},
		FailCost: fixed(0)}
	for ahead, days := range map[float64]float64{0: 5, 18: 5, 30: 7} { // six hours a day
		out, err := Decide(In{Options: []Option{o}, Ahead: ahead})
		require.NoError(t, err)
		assert.InDelta(t, days, out.Options[0].DaysP80, 1e-9, "%g hours before it", ahead)
	}
	_, err := Decide(In{Options: []Option{o}, Ahead: -1})
	assert.ErrorContains(t, err, "hours_ahead")
}

// What is bought beside the parts and sent out adds to the cost and to nothing
// else; a way without them is drawn as ever.
func TestFluidsAndOutsideWork(t *testing.T) {
	t.Parallel()
	plain, err := Decide(In{Options: []Option{option("rebuild")}, Rate: 60, Seed: 5})
	require.NoError(t, err)
	o := option("rebuild")
	o.Fluids, o.Outside = fixed(40), fixed(110)
	more, err := Decide(In{Options: []Option{o}, Rate: 60, Seed: 5})
	require.NoError(t, err)
	assert.InDelta(t, plain.Options[0].Mean+150, more.Options[0].Mean, 5*plain.Options[0].Error)
	assert.InDelta(t, plain.Options[0].Days, more.Options[0].Days, 0.1)
	o.Outside = Range{Low: 0, High: 9000}
	hangs, err := Decide(In{Options: []Option{o}, Rate: 60, Seed: 5})
	require.NoError(t, err)
	assert.Equal(t, "the work sent out", hangs.Options[0].Hinges)
	o.Fluids = Range{Low: 5, High: 2}
	_, err = Decide(In{Options: []Option{o}})
	assert.ErrorContains(t, err, "options[0].fluids.low")
}

func TestTheChoiceAndWhatItHangsOn(t *testing.T) {
	t.Parallel()
	dear := option("exchange")
	dear.Parts = tri(2500, 2600, 2700)
	unsure := option("rebuild")
	unsure.Parts = Range{Low: 0, High: 2000}
	out, err := Decide(In{Options: []Option{dear, unsure}, Rate: 60})
	require.NoError(t, err)
	assert.Equal(t, "rebuild", out.Choice)
	assert.Equal(t, "the parts", out.Options[0].Hinges)
	assert.InDelta(t, 1, out.Options[0].BestShare+out.Options[1].BestShare, 1e-9)
}

func TestTheSameSeedGivesTheSameAnswer(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := In{
			Options: []Option{option("a"), option("b")}, Rate: rapid.Float64Range(0, 100).Draw(t, "rate"),
			Seed: rapid.Uint64().Draw(t, "seed"), Draws: new(500),
		}
		a, err := Decide(in)
		require.NoError(t, err)
		b, err := Decide(in)
		require.NoError(t, err)
		assert.Equal(t, a, b)
		for _, o := range a.Options {
			assert.False(t, math.IsNaN(o.Mean))
		}
	})
}

func TestDecideNamesTheBadField(t *testing.T) {
	t.Parallel()
	for says, change := range map[string]func(*In){
		"options: 0":                     func(in *In) { in.Options = nil },
		"options[0].parts.low":           func(in *In) { in.Options[0].Parts = Range{Low: 9, High: 1} },
		"options[0].labour_hours.likely": func(in *In) { in.Options[0].Hours = tri(1, 9, 2) },
		"options[0].failure_chance.high": func(in *In) { in.Options[0].Fail = Chance{Low: 0, High: 3} },
		"draws:":                         func(in *In) { in.Draws = new(1_000_000_000) },
		"hourly_rate":                    func(in *In) { in.Rate = math.NaN() },
	} {
		in := In{Options: []Option{option("a")}, Rate: 60}
		change(&in)
		_, err := Decide(in)
		require.ErrorContains(t, err, says)
	}
}

func BenchmarkDecide(b *testing.B) {
	in := In{Options: []Option{option("a"), option("b"), option("c"), option("d"), option("e")}, Rate: 60, DayCost: 40}
	for b.Loop() {
		if _, err := Decide(in); err != nil {
			b.Fatal(err)
		}
	}
}

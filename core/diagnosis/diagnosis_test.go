package diagnosis

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// clutch is a small book: a clutch that will not release.
func clutch() In {
	return In{
		Causes: []Cause{
			{ID: "hydraulics", Says: "master or slave cylinder", Weight: 5, Action: "order both cylinders"},
			{ID: "disc", Says: "disc or splines", Weight: 3, Action: "take the gearbox out"},
			{ID: "pilot", Says: "pilot bearing or alignment", Weight: 2, Action: "take the gearbox out"},
		},
		Tests: []Test{
			{ID: "fork", Says: "release fork while somebody pumps", Minutes: 5, Outcomes: []string{"full", "little"},
				Normal: "full",
				Otherwise: map[string]float64{
					"full": 0.95, "little": 0.05,
				}, Given: map[string]map[string]float64{"hydraulics": {"full": 0.1, "little": 0.9}}},
			{ID: "fluid", Says: "fluid level", Minutes: 1, Outcomes: []string{"good", "low"}, Normal: "good",
				Otherwise: map[string]float64{
					"good": 0.9, "low": 0.1,
				}, Given: map[string]map[string]float64{"hydraulics": {"good": 0.4, "low": 0.6}}},
			{ID: "spin", Says: "input shaft spins on with the pedal down", Minutes: 10,
				Outcomes: []string{"stops", "spins"}, Normal: "stops",
				Otherwise: map[string]float64{
					"stops": 0.5, "spins": 0.5,
				}, Given: map[string]map[string]float64{"pilot": {"stops": 0.1, "spins": 0.9}}},
		},
	}
}

// Fork moving but only just means master or slave cylinder; full travel and
// still dragging means disc, splines, pilot or alignment (common practice).
func TestTheForkTellsHydraulicsFromTheDisc(t *testing.T) {
	t.Parallel()
	in := clutch()
	in.Seen = []Seen{{Test: "fork", Outcome: "little"}}
	out, err := Diagnose(in)
	require.NoError(t, err)
	assert.Equal(t, "hydraulics", out.Causes[0].ID)
	assert.Equal(t, []string{"release fork while somebody pumps: little"}, out.Causes[0].For)
	in.Seen = []Seen{{Test: "fork", Outcome: "full"}}
	out, err = Diagnose(in)
	require.NoError(t, err)
	assert.Equal(t, "take the gearbox out", out.Action)
}

// Worked by hand, singles only: 0.5·0.9 against 0.5·0.05 gives 0.947.
func TestAPosteriorByHand(t *testing.T) {
	t.Parallel()
	in := clutch()
	in.PairShare = new(1e-12)
	in.Seen = []Seen{{Test: "fork", Outcome: "little"}}
	out, err := Diagnose(in)
	require.NoError(t, err)
	assert.InDelta(t, 0.45/(0.45+0.025), out.Causes[0].P, 1e-6)
}

// random draws a small book.
func random(t *rapid.T) In {
	in := In{PairShare: new(rapid.Float64Range(0.01, 0.5).Draw(t, "pairs"))}
	for i := range rapid.IntRange(2, 5).Draw(t, "causes") {
		in.Causes = append(
			in.Causes,
			Cause{
				ID: fmt.Sprint("c", i), Weight: rapid.Float64Range(0.1, 5).Draw(t, "w"), Action: fmt.Sprint("a", i%3),
				Confirmed: rapid.IntRange(0, 9).Draw(t, "n"),
			},
		)
	}
	for i := range rapid.IntRange(1, 4).Draw(t, "tests") {
		test := Test{
			ID: fmt.Sprint("t", i), Says: fmt.Sprint("t", i), Minutes: rapid.Float64Range(1, 30).Draw(t, "min"),
			Outcomes: []string{"n", "x", "y"}, Normal: "n", Given: map[string]map[string]float64{},
		}
		spread := func() map[string]float64 {
			a, b, c := rapid.Float64Range(0.05, 1).Draw(t, "a"), rapid.Float64Range(0.05, 1).Draw(t,
				"b"), rapid.Float64Range(0.05, 1).Draw(t, "c")
			return map[string]float64{"n": a / (a + b + c), "x": b / (a + b + c), "y": c / (a + b + c)}
		}
		test.Otherwise = spread()
		for _, c := range in.Causes {
			if rapid.Bool().Draw(t, "speaks") {
				test.Given[c.ID] = spread()
			}
		}
		in.Tests = append(in.Tests, test)
		in.Seen = append(in.Seen, Seen{Test: test.ID, Outcome: rapid.SampledFrom(test.Outcomes).Draw(t, "seen")})
	}
	return in
}

// The answer against enumeration of the whole joint table, written apart: all
// hypotheses times all outcomes of all tests, then conditioned.
func TestExactInferenceAgainstEnumeration(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := random(t)
		out, err := Diagnose(in)
		require.NoError(t, err)
		w, err := in.world()
		require.NoError(t, err)
		mass := map[string]float64{}
		total := 0.0
		var table func(test int, outcomes []string, visit func([]string))
		table = func(test int, outcomes []string, visit func([]string)) {
			if test == len(in.Tests) {
				visit(outcomes)
				return
			}
			for _, o := range in.Tests[test].Outcomes {
				table(test+1, append(slices.Clone(outcomes), o), visit)
			}
		}
		for i, h := range w.hyps {
			sum := 0.0
			table(0, nil, func(outcomes []string) {
				p := w.prior[i]
				for k, o := range outcomes {
					p *= w.likelihoods(&in.Tests[k], o)[i]
				}
				sum += p
				for k, s := range in.Seen {
					if outcomes[k] != s.Outcome {
						return
					}
				}
				total += p
				mass[in.Causes[h[0]].ID] += p
				if h[1] >= 0 {
					mass[in.Causes[h[1]].ID] += p
				}
			})
			assert.InDelta(t, w.prior[i], sum, 1e-9, "outcomes of every hypothesis sum to one")
		}
		for _, c := range out.Causes {
			assert.InDelta(t, mass[c.ID]/total, c.P, 1e-9)
		}
	})
}

// The information of a test is the entropy it is expected to take away
// (Shannon): worked here the long way, by doing the test and reading what is left.
func TestInformationIsTheEntropyATestTakesAway(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := random(t)
		in.Seen = in.Seen[:len(in.Seen)/2]
		out, err := Diagnose(in)
		require.NoError(t, err)
		w, err := in.world()
		require.NoError(t, err)
		now, total := w.posterior(in.Seen)
		for _, n := range out.Next {
			want := entropy(now)
			for _, o := range w.tests[n.ID].Outcomes {
				left, with := w.posterior(append(slices.Clone(in.Seen), Seen{Test: n.ID, Outcome: o}))
				want -= with / total * entropy(left)
			}
			assert.InDelta(t, want, n.Bits, 1e-9, n.ID)
		}
	})
}

func TestInformationIsNeverNegativeAndOrderDoesNotMatter(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		in := random(t)
		seen := in.Seen
		in.Seen = seen[:len(seen)/2]
		out, err := Diagnose(in)
		require.NoError(t, err)
		for _, n := range out.Next {
			assert.GreaterOrEqual(t, n.Bits, 0.0)
		}
		in.Seen = seen
		a, err := Diagnose(in)
		require.NoError(t, err)
		in.Seen = slices.Clone(seen)
		slices.Reverse(in.Seen)
		b, err := Diagnose(in)
		require.NoError(t, err)
		for i := range a.Causes {
			assert.InDelta(t, a.Causes[i].P, b.Causes[i].P, 1e-12)
		}
	})
}

func TestEnoughIsKnownWhenNothingChangesTheOrder(t *testing.T) {
	t.Parallel()
	in := clutch()
	out, err := Diagnose(in)
	require.NoError(t, err)
	assert.False(t, out.Enough)
	assert.True(t, out.Next[0].Decisive)
	in.Seen = []Seen{{Test: "fork", Outcome: "full"}, {Test: "fluid", Outcome: "good"}}
	out, err = Diagnose(in)
	require.NoError(t, err)
	assert.True(t, out.Enough, "disc or pilot: the gearbox comes out either way")
}

func TestClashNamesTheOutcomeToDoubt(t *testing.T) {
	t.Parallel()
	in := clutch()
	for i := range in.Tests {
		in.Tests[i].Otherwise = map[string]float64{in.Tests[i].Normal: 1}
	}
	in.Tests[0].Given = map[string]map[string]float64{"hydraulics": {"little": 1}}
	in.Tests[1].Given = map[string]map[string]float64{"hydraulics": {"good": 1}}
	in.Tests[2].Given = map[string]map[string]float64{"pilot": {"spins": 1}}
	in.Seen = []Seen{{Test: "fork", Outcome: "little"}, {Test: "fluid", Outcome: "low"}}
	out, err := Diagnose(in)
	require.NoError(t, err)
	require.NotNil(t, out.Clash)
	assert.Equal(t, "fluid", out.Clash.Misread.Test)
}

func TestOwnCasesShiftTheWeights(t *testing.T) {
	t.Parallel()
	in := clutch()
	in.Causes[2].Confirmed = 60
	out, err := Diagnose(in)
	require.NoError(t, err)
	assert.Equal(t, "pilot", out.Causes[0].ID)
	assert.InDelta(t, 0.75, out.OwnShare, 1e-9)
}

func TestBadBooksNameTheirField(t *testing.T) {
	t.Parallel()
	for says, change := range map[string]func(*In){
		"causes: 1 causes":             func(in *In) { in.Causes = in.Causes[:1] },
		"causes[1].id":                 func(in *In) { in.Causes[1].ID = "hydraulics" },
		"causes[0].weight":             func(in *In) { in.Causes[0].Weight = math.NaN() },
		"tests[0].otherwise: ":         func(in *In) { in.Tests[0].Otherwise = map[string]float64{"full": 0.5} },
		"tests[0].given.nobody":        func(in *In) { in.Tests[0].Given = map[string]map[string]float64{"nobody": {"full": 1}} },
		"tests[0].outcomes":            func(in *In) { in.Tests[0].Normal = "sideways" },
		"seen[0].test: \"smell\"":      func(in *In) { in.Seen = []Seen{{Test: "smell", Outcome: "bad"}} },
		"seen[0].outcome: \"halfway\"": func(in *In) { in.Seen = []Seen{{Test: "fork", Outcome: "halfway"}} },
	} {
		in := clutch()
		change(&in)
		_, err := Diagnose(in)
		require.ErrorContains(t, err, says)
	}
}

// A book of 50 causes and 50 tests, pairs and next test included.
func BenchmarkDiagnoseFullBook(b *testing.B) {
	in := In{}
	for i := range 50 {
		in.Causes = append(in.Causes, Cause{ID: fmt.Sprint("c", i), Says: "c", Weight: float64(1 + i%7),
			Action: fmt.Sprint("a", i%12)})
	}
	for i := range 50 {
		in.Tests = append(in.Tests, Test{ID: fmt.Sprint("t", i), Says: "t", Minutes: float64(1 + i%9),
			Outcomes: []string{"n", "x", "y"}, Normal: "n",
			Otherwise: map[string]float64{"n": 0.8, "x": 0.1, "y": 0.1},
			Given: map[string]map[string]float64{
				fmt.Sprint("c", i):        {"n": 0.1, "x": 0.7, "y": 0.2},
				fmt.Sprint("c", (i*7)%50): {"n": 0.3, "x": 0.1, "y": 0.6},
			}})
	}
	in.Seen = []Seen{{Test: "t3", Outcome: "x"}, {Test: "t9", Outcome: "n"}}
	for b.Loop() {
		if _, err := Diagnose(in); err != nil {
			b.Fatal(err)
		}
	}
}

// What is foreseen after an outcome is what is believed once it is seen: the
// same inference, asked beforehand; and the outcomes' chances make one.
func TestWhatIsForeseenComesTrue(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(rt *rapid.T) {
		in := clutch()
		for _, test := range in.Tests {
			if rapid.Bool().Draw(rt, test.ID) {
				in.Seen = append(in.Seen, Seen{Test: test.ID,
					Outcome: rapid.SampledFrom(test.Outcomes).Draw(rt, test.ID+" is")})
			}
		}
		now, err := Diagnose(in)
		require.NoError(rt, err)
		for _, next := range now.Next {
			sum := 0.0
			for _, f := range next.After {
				sum += f.Chance
				then := in
				then.Seen = append(slices.Clone(in.Seen), Seen{Test: next.ID, Outcome: f.Outcome})
				seen, err := Diagnose(then)
				require.NoError(rt, err)
				require.Equal(rt, seen.Action, f.Action)
				require.InDelta(rt, seen.ActionP, f.ActionP, 1e-9)
				p := map[string]float64{}
				for _, c := range seen.Causes {
					p[c.ID] = c.P
				}
				for _, c := range f.Causes {
					require.InDelta(rt, p[c.ID], c.P, 1e-9, "%s after %s: %s", c.ID, next.ID, f.Outcome)
				}
			}
			require.InDelta(rt, 1, sum, 1e-9, next.ID)
		}
	})
}

// A short test that may settle the order goes before a long one that says
// little, whatever either is called; by hand.
func TestTheNextTestIsByWhatItPromises(t *testing.T) {
	t.Parallel()
	even := func(p float64) map[string]float64 { return map[string]float64{"ok": p, "bad": 1 - p} }
	in := In{
		Causes: []Cause{{ID: "a", Says: "a", Weight: 7, Action: "order a"},
			{ID: "b", Says: "b", Weight: 3, Action: "order b"}},
		Tests: []Test{
			{
				ID: "long", Says: "long", Minutes: 60, Outcomes: []string{"ok", "bad"}, Normal: "ok",
				Otherwise: even(0.5),
				Given:     map[string]map[string]float64{"a": even(0.9), "b": even(0.75)},
			},
			{
				ID: "short", Says: "short", Minutes: 6, Outcomes: []string{"ok", "bad"}, Normal: "ok",
				Otherwise: even(0.5),
				Given:     map[string]map[string]float64{"a": even(0.03), "b": even(0.97)},
			},
			{
				ID: "look", Says: "look", Outcomes: []string{"ok", "bad"}, Normal: "ok", Otherwise: even(0.5),
				Given: map[string]map[string]float64{"a": even(0.01), "b": even(0.99)},
			},
		},
	}
	out, err := Diagnose(in)
	require.NoError(t, err)
	require.NotEmpty(t, out.Next)
	assert.Equal(t, "short", out.Next[0].ID)
	assert.Greater(t, out.Next[0].Promise, 0.6)
	in.Seen = []Seen{{Test: "look", Outcome: "bad"}}
	told, err := Diagnose(in)
	require.NoError(t, err)
	assert.False(t, told.Enough, "the customer's word")
	in.Seen[0].Own = true
	own, err := Diagnose(in)
	require.NoError(t, err)
	assert.True(t, own.Enough, "the shop's own look, though it takes no minutes")
	assert.Equal(t, 89, percent(0.899))
	in.PairShare = new(1.0)
	_, err = Diagnose(in)
	assert.ErrorContains(t, err, "pair_share")
}

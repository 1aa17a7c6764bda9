package workshop_test

import (
	"cmp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/order"
	"handwerk/workshop/record"
)

func worn(t *testing.T, what, value, fresh, limit string) *acts.Wear {
	return &acts.Wear{
		What: what, Value: quantitytest.Any(t, value), New: quantitytest.Any(t, fresh),
		Limit: quantitytest.Any(t, limit),
	}
}

func verdict(part, outcome string, more acts.Verdict) record.Draft {
	more.Outcome = outcome
	return record.Draft{Item: record.ReadPlace(part), Says: &more}
}

func TestAPartIsMeasuredAgainstNewAndLimit(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("parts")
	e := b.must("parts", verdict("sleeve", "replace",
		acts.Verdict{Wear: worn(t, "groove", "8.3 mm", "8.0 mm", "8.2 mm")}))
	assert.Equal(t, metrology.Out, e.Verdict)
	assert.InDelta(t, -0.5, record.As[acts.Verdict](&e).Wear.Left, 1e-9)
	assert.Equal(t, "Dog sleeve: replace, groove 8.3 mm, limit 8.2 mm", says(t, b, "parts", e.ID))
	fork := b.must("parts", verdict("fork", "reuse", acts.Verdict{Wear: worn(t, "pad", "5.5 mm", "6 mm", "5 mm")}))
	assert.Equal(t, metrology.In, fork.Verdict)
	assert.InDelta(t, 0.5, record.As[acts.Verdict](&fork).Wear.Left, 1e-9)
	_, err := b.try("parts", verdict("gear", "reuse", acts.Verdict{Wear: worn(t, "bore", "1 in", "25 mm", "25.2 mm")}),
		mechanic)
	require.ErrorContains(t, err, "past its limit")
	b.must("parts", verdict("gear", "rework", acts.Verdict{Work: "polish", Reason: "galled"}))
	b.walkUntil("parts-here")
	v, err := record.MakeStep(b.ledger, "parts-here", mechanic, b.now)
	require.NoError(t, err)
	sleeve := lineOf(t, v.(*order.OrderStep), "strip.sleeve")
	assert.Equal(t, "groove 8.3 mm, limit 8.2 mm", sleeve.Why, "the list says what was measured")
}

// Three readings and a gauge say how sure the figure is: mean, spread and scale
// by the reading set. Far from its limit the part is in or out, close to it
// nobody can tell, and using it again wants a reason.
func TestAPartIsReadSeveralTimes(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("parts")
	read := func(values ...string) *acts.Wear {
		w := worn(t, "pad", "1 mm", "6 mm", "5.2 mm")
		w.Value = quantity.Any{}
		for _, v := range values {
			w.Readings = append(w.Readings, quantitytest.Any(t, v))
		}
		return w
	}
	measured := func(outcome, reason string, readings ...string) record.Draft {
		return verdict(
			"fork",
			outcome,
			acts.Verdict{Wear: read(readings...), Read: acts.Read{Instrument: "caliper-1"}, Reason: reason},
		)
	}
	for name, x := range map[string]struct {
		readings []string
		want     metrology.Verdict
	}{
		"in":        {[]string{"5.60 mm", "5.62 mm", "5.61 mm"}, metrology.In},
		"out":       {[]string{"5.00 mm", "5.02 mm", "5.01 mm"}, metrology.Out},
		"undecided": {[]string{"5.18 mm", "5.24 mm", "5.20 mm"}, metrology.Undecided},
		"one":       {[]string{"5.60 mm"}, metrology.In},
	} {
		b := *b
		if x.want != metrology.In {
			_, err := b.try("parts", measured("reuse", "", x.readings...), lead)
			require.ErrorContains(t, err, "reason:", name)
		}
		e := b.must("parts", measured("rework", "dressed", x.readings...))
		assert.Equal(t, x.want, e.Verdict, name)
		assert.True(t, record.As[acts.Verdict](&e).Wear.Sure.IsSaid(), name)
		assert.Contains(t, e.Method, "reading-set")
	}
	e := b.must("parts", measured("reuse", "", "5.60 mm", "5.62 mm", "5.61 mm"))
	// By hand, after JCGM 100:2008 (GUM): s = 0.01, u_A = 0.01/√3 = 0.00577, u_res = 0.02/(2√3) = 0.00577,
	// u_mpe = 0.03/√3 = 0.01732, together 0.01915 mm; the effective degrees of freedom are about 243, t is 1.970 there.
	assert.InDelta(t, 0.0377, record.As[acts.Verdict](&e).Wear.Sure.Value, 1e-4)
	assert.InDelta(t, 5.61e-3, record.As[acts.Verdict](&e).Wear.Value.SI(), 1e-9)
	assert.InDelta(t, (5.61-5.2)/(6-5.2), record.As[acts.Verdict](&e).Wear.Left, 1e-6)
	assert.Contains(t, says(t, b, "parts", e.ID), "pad 5.610 mm ± 0.0")
	assert.Contains(t, says(t, b, "parts", e.ID), "from 3 readings, limit 5.2 mm")

	for names, d := range map[string]record.Draft{
		"instrument: ":       verdict("gear", "reuse", acts.Verdict{Wear: read("5.6 mm"), Read: acts.Read{Instrument: "beam-1"}}),
		"instrument:":        verdict("gear", "reuse", acts.Verdict{Read: acts.Read{Instrument: "caliper-1"}}),
		"wear.readings[1]: ": verdict("gear", "reuse", acts.Verdict{Wear: read("5.6 mm", "3 N·m")}),
		"wear.readings: ": verdict("gear", "reuse",
			acts.Verdict{Wear: read(slices.Repeat([]string{"5.6 mm"}, 21)...)}),
	} {
		_, err := b.try("parts", d, mechanic)
		require.ErrorContains(t, err, names)
	}
}

func TestWhatNoVerdictTakes(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("parts")
	bore := func(what, fresh, limit string) record.Draft {
		return verdict("gear", "reuse", acts.Verdict{Wear: worn(t, what, "25 mm", fresh, limit)})
	}
	for name, c := range map[string]struct {
		d     record.Draft
		names string
	}{
		"work on what is used again": {verdict("gear", "reuse", acts.Verdict{Work: "polish"}), "work:"},
		"a work that is none": {verdict("gear", "rework", acts.Verdict{Work: "weld", Reason: "cracked"}),
			"work:"},
		"other kinds of size": {bore("bore", "20 N·m", "25.2 mm"), "wear.new"},
		"nothing said of it":  {bore("", "25 mm", "25.2 mm"), "wear.what"},
		"as new at its limit": {bore("bore", "25 mm", "25 mm"), "wear.limit"},
		"no figure": {verdict("gear", "reuse", acts.Verdict{Wear: &acts.Wear{What: "bore"}}),
			"wear.value"},
	} {
		_, err := b.try("parts", c.d, mechanic)
		require.ErrorContains(t, err, c.names, name)
	}
}

func TestTheRootCauseIsToldAsAChain(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("cause")
	chain := []acts.ChainLink{
		{Part: "strip.washer", Name: "Thrust washer", How: "left out"},
		{Part: "strip.sleeve", Name: "Dog sleeve", How: "corners carried"}, {Name: "the customer's patience"},
	}
	e := b.must(
		"cause",
		record.Draft{Says: &acts.Decision{Outcome: "dog-clutch-jumps", Reason: "floats", Chain: chain}},
	)
	assert.Contains(t, says(t, b, "cause", e.ID),
		"first Thrust washer (left out), which damaged Dog sleeve (corners carried), the customer's patience")
	v, err := record.MakeStep(b.ledger, "cause", mechanic, b.now)
	require.NoError(t, err)
	assert.Equal(t, chain, v.(*decide.DecideStep).Chain)
	assert.NotEqual(t, "reuse", v.(*decide.DecideStep).Parts[0].Verdict, "the damaged ones are offered first")
	choices := v.(*decide.DecideStep).Choices
	byLikely := func(a, b decide.ChoiceView) int { return cmp.Compare(b.Likely, a.Likely) }
	assert.True(t, slices.IsSortedFunc(choices[:len(choices)-1], byLikely), "the likeliest first, by what was tested")
	assert.Positive(t, choices[0].Likely)
	assert.Equal(t, "other", choices[len(choices)-1].ID)
	for name, bad := range map[string][]acts.ChainLink{
		"a part that is none": {{Part: "strip.nothing", Name: "x"}},
		"twice":               {{Part: "strip.washer", Name: "x"}, {Part: "strip.washer", Name: "y"}},
		"no name":             {{Part: "strip.washer"}},
		"too many":            make([]acts.ChainLink, 13),
	} {
		_, err := b.try(
			"cause",
			record.Draft{
				Supersedes: e.ID,
				Says:       &acts.Decision{Outcome: "dog-clutch-jumps", Reason: "floats", Chain: bad},
			},
			mechanic,
		)
		require.ErrorContains(t, err, "chain", name)
	}
	other := newBench(t)
	other.walkUntil("way")
	_, err = other.try("way", record.Draft{Says: &acts.Decision{Outcome: "rebuild", Chain: chain[2:]}}, mechanic)
	require.ErrorContains(t, err, "chain")
}

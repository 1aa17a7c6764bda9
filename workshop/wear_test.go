package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/core/quantity/quantitytest"
	. "handwerk/workshop"
)

func worn(t *testing.T, what, value, fresh, limit string) *Worn {
	return &Worn{What: what, Value: quantitytest.Any(t, value), New: quantitytest.Any(t, fresh), Limit: quantitytest.Any(t, limit)}
}

func verdict(part, outcome string, more Body) Draft {
	more.Outcome = outcome
	return Draft{Act: ActVerdict, Item: ReadPlace(part), Body: more}
}

func TestAPartIsMeasuredAgainstNewAndLimit(t *testing.T) {
	b := newBench(t)
	b.walkUntil("parts")
	e := b.must("parts", verdict("sleeve", "replace", Body{Wear: worn(t, "groove", "8.3 mm", "8.0 mm", "8.2 mm")}))
	assert.Equal(t, metrology.Out, e.Verdict)
	assert.InDelta(t, -0.5, e.Said().Wear.Left, 1e-9)
	assert.Equal(t, "Dog sleeve: replace, groove 8.3 mm, limit 8.2 mm", says(t, b, "parts", e.ID))
	fork := b.must("parts", verdict("fork", "reuse", Body{Wear: worn(t, "pad", "5.5 mm", "6 mm", "5 mm")}))
	assert.Equal(t, metrology.In, fork.Verdict)
	assert.InDelta(t, 0.5, fork.Said().Wear.Left, 1e-9)
	_, err := b.try("parts", verdict("gear", "reuse", Body{Wear: worn(t, "bore", "1 in", "25 mm", "25.2 mm")}), mechanic)
	require.ErrorContains(t, err, "beyond its limit")
	b.must("parts", verdict("gear", "rework", Body{Work: "polish", Reason: "galled"}))
	b.walkUntil("parts-here")
	v, err := MakeStep(b.ledger, "parts-here", mechanic, b.now)
	require.NoError(t, err)
	assert.Equal(t, "groove 8.3 mm, limit 8.2 mm", lineOf(t, v.(*OrderStep), "strip.sleeve").Why, "the list says what was measured")
}

func TestWhatNoVerdictTakes(t *testing.T) {
	b := newBench(t)
	b.walkUntil("parts")
	for name, c := range map[string]struct {
		d     Draft
		names string
	}{
		"work on what is used again": {verdict("gear", "reuse", Body{Work: "polish"}), "work:"},
		"a work that is none":        {verdict("gear", "rework", Body{Work: "weld", Reason: "cracked"}), "work:"},
		"other kinds of size":        {verdict("gear", "reuse", Body{Wear: worn(t, "bore", "25 mm", "20 N·m", "25.2 mm")}), "wear.new"},
		"nothing said of it":         {verdict("gear", "reuse", Body{Wear: worn(t, "", "25 mm", "25 mm", "25.2 mm")}), "wear.what"},
		"as new at its limit":        {verdict("gear", "reuse", Body{Wear: worn(t, "bore", "25 mm", "25 mm", "25 mm")}), "wear.limit"},
		"no figure":                  {verdict("gear", "reuse", Body{Wear: &Worn{What: "bore"}}), "wear.value"},
	} {
		_, err := b.try("parts", c.d, mechanic)
		require.ErrorContains(t, err, c.names, name)
	}
}

func TestTheRootCauseIsToldAsAChain(t *testing.T) {
	b := newBench(t)
	b.walkUntil("cause")
	chain := []ChainLink{
		{Part: "strip.washer", Name: "Thrust washer", How: "left out"},
		{Part: "strip.sleeve", Name: "Dog sleeve", How: "corners carried"}, {Name: "the customer's patience"},
	}
	e := b.must("cause", Draft{Act: ActDecision, Body: Body{Outcome: "dog-clutch-jumps", Reason: "floats", Chain: chain}})
	assert.Contains(t, says(t, b, "cause", e.ID), "first Thrust washer (left out), which took Dog sleeve (corners carried), the customer's patience")
	v, err := MakeStep(b.ledger, "cause", mechanic, b.now)
	require.NoError(t, err)
	assert.Equal(t, chain, v.(*DecideStep).Chain)
	assert.NotEqual(t, "reuse", v.(*DecideStep).Parts[0].Verdict, "the damaged ones are offered first")
	for name, bad := range map[string][]ChainLink{
		"a part that is none": {{Part: "strip.nothing", Name: "x"}},
		"twice":               {{Part: "strip.washer", Name: "x"}, {Part: "strip.washer", Name: "y"}},
		"no name":             {{Part: "strip.washer"}},
		"too many":            make([]ChainLink, 13),
	} {
		_, err := b.try("cause", Draft{Act: ActDecision, Supersedes: e.ID, Body: Body{Outcome: "dog-clutch-jumps", Reason: "floats", Chain: bad}}, mechanic)
		require.ErrorContains(t, err, "chain", name)
	}
	other := newBench(t)
	other.walkUntil("way")
	_, err = other.try("way", Draft{Act: ActDecision, Body: Body{Outcome: "rebuild", Chain: chain[2:]}}, mechanic)
	require.ErrorContains(t, err, "chain")
}

package workshop_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/order"
	"handwerk/workshop/record"
)

// atParts stands at the parts list: promised in six days, the sleeve and the
// bearing of a transfer case condemned.
func atParts(t *testing.T) *bench {
	b := newBench(t)
	b.ledger.Rebuild.Promised = "2026-11-30"
	b.walkUntil("parts")
	b.must(
		"parts",
		record.Draft{
			Item: record.ReadPlace("sleeve"),
			Says: &acts.Verdict{Outcome: "replace", Reason: "teeth rounded"},
		},
	)
	b.must(
		"parts",
		record.Draft{
			Item: record.ReadPlace("washer"),
			Says: &acts.Verdict{Outcome: "not-found", Reason: "was left out"},
		},
	)
	b.walkUntil("parts-here")
	return b
}

func (b *bench) list(t *testing.T) *order.OrderStep {
	t.Helper()
	v, err := record.MakeStep(b.ledger, "parts-here", mechanic, b.now)
	require.NoError(t, err)
	return v.(*order.OrderStep)
}

func lineOf(t *testing.T, v *order.OrderStep, id string) order.PartLine {
	t.Helper()
	for _, g := range v.Groups {
		for _, l := range g.Lines {
			if l.Line == id {
				return l
			}
		}
	}
	require.Fail(t, "no such line", id)
	return order.PartLine{}
}

// due orders a part that is promised for a day.
func due(day string) record.Draft {
	d := ordering(acts.OrderLine{Line: "strip-cover.seal"})
	d.Says.(*acts.Ordered).Due = day
	return d
}

func came(lines ...acts.OrderLine) record.Draft {
	return record.Draft{Says: &acts.Came{Lines: lines}}
}

func wanted(lines ...acts.OrderLine) record.Draft {
	return record.Draft{Says: &acts.Wanted{Lines: lines}}
}

func ordering(lines ...acts.OrderLine) record.Draft {
	return record.Draft{Says: &acts.Ordered{Supplier: "Ferry stores", Due: "2026-11-27", Lines: lines}}
}

func TestTheVerdictsMakeTheList(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	v := b.list(t)
	assert.Contains(t, lineOf(t, v, "strip-cover.seal").Why, "its lip has worn to the old shaft")
	assert.Equal(t, "teeth rounded", lineOf(t, v, "strip.sleeve").Why)
	assert.Equal(t, "was left out", lineOf(t, v, "strip.washer").Why)
	require.Len(t, v.Ways, 4, "singles, two kits, and both where one brings what the other lacks")
	best := v.Ways[0]
	assert.Equal(t, "seals", best.ID)
	assert.InDelta(t, 22+96+9, best.Sum.Sum(), 1e-9, "the seal set, the sleeve, the washer by five")
	assert.True(t, best.InTime)
	assert.Equal(t, "2026-11-27", best.Day, "three days from Tuesday")
	assert.Equal(t, []string{"4 Thrust washer"}, v.Left)
	assert.Equal(t, "In Seal set", v.Groups[0].Title)
	assert.Equal(t, "Seal set", lineOf(t, v, "strip-cover.seal").In)
	assert.Equal(t, []string{"spline count", "groove width"}, lineOf(t, v, "strip.sleeve").Compare)
	assert.Equal(t, "3 parts to order", v.Needs, "the set, the sleeve, the washer")
}

func TestTheBoardSaysWhatItWaitsFor(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", record.Draft{Says: &acts.Decision{Outcome: "seals"}})
	b.must("parts-here", ordering(acts.OrderLine{Line: "kit.seals"}, acts.OrderLine{Line: "strip.washer"}))
	late := ordering(acts.OrderLine{Line: "strip.sleeve"})
	late.Says.(*acts.Ordered).Due = "2026-12-02"
	b.must("parts-here", late)
	place := b.ledger.Rebuild.Place
	assert.True(t, place.Held)
	assert.Contains(t, place.WaitsFor, "waits for 3 parts, last due Wed 2026-12-02, 2 days after the promised date")
	v := b.list(t)
	assert.Equal(t, 3, v.Last.Late, "the building comes after the last part")
	assert.Contains(t, v.Last.Says, "of work follow: 3 days after the promised day")

	b.must(
		"parts-here",
		came(acts.OrderLine{Line: "kit.seals", Outcome: "fits"},
			acts.OrderLine{Line: "strip.washer", Outcome: "fits"}),
	)
	assert.Contains(t, b.ledger.Rebuild.Place.WaitsFor, "waits for 1 part, due Wed 2026-12-02")
	assert.Equal(
		t,
		buying.LineHere,
		lineOf(t, b.list(t), "strip-cover.seal").State,
		"what the kit brings is here with it",
	)
	b.must("parts-here", came(acts.OrderLine{Line: "strip.sleeve", Outcome: "fits"}))
	assert.False(t, b.ledger.Rebuild.Place.Held)
	assert.Equal(t, "All parts are here.", b.list(t).Last.Says)
}

func TestWhatDiffersGoesBackAndIsOrderedAgain(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", ordering(acts.OrderLine{Line: "strip.sleeve"}))
	compared := []acts.Compared{
		{What: "spline count", Old: "27", New: "25"}, {What: "groove width", Old: "8 mm", New: "0.8 cm"},
	}
	_, err := b.try("parts-here", came(acts.OrderLine{Line: "strip.sleeve", Outcome: "fits", Compared: compared}),
		mechanic)
	require.ErrorContains(t, err, "lines[0].reason")
	came := b.must(
		"parts-here",
		came(acts.OrderLine{Line: "strip.sleeve", Outcome: "back", Reason: "two splines short", Compared: compared}),
	)
	l := lineOf(t, b.list(t), "strip.sleeve")
	assert.Equal(t, buying.LineBack, l.State)
	assert.Equal(t, "spline count: 25 instead of 27", l.Differs)
	assert.Contains(
		t, says(t, b, "parts-here", came.ID), "Dog sleeve, sent back, spline count 25, not 27, two splines short",
	)
	assert.Equal(t, record.Open, statusOf(b, "parts-here"))
	b.must("parts-here", ordering(acts.OrderLine{Line: "strip.sleeve"}))
	assert.Empty(t, lineOf(t, b.list(t), "strip.sleeve").Compared, "the next one is held against the old anew")
}

func TestWhatAPackLeavesOverGoesToItsDrawer(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	before := b.drawer["0.52 mm"]
	came := b.must("parts-here", came(acts.OrderLine{Line: "strip.washer", Outcome: "fits"}))
	assert.Equal(t, before+4, b.drawer["0.52 mm"], "five in the pack, one wanted")
	_, err := b.try(
		"parts-here", record.Draft{Supersedes: came.ID, Says: &acts.Strike{Reason: "counted wrong"}}, mechanic,
	)
	require.NoError(t, err)
	assert.Equal(t, before, b.drawer["0.52 mm"])
}

func TestAStruckOrderIsOrderedAnew(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	first := b.must("parts-here", ordering(acts.OrderLine{Line: "strip.sleeve"}))
	fix := ordering(acts.OrderLine{Line: "strip.sleeve"})
	fix.Supersedes, fix.Says.(*acts.Ordered).Due = first.ID, "2026-11-28"
	second := b.must("parts-here", fix)
	assert.Equal(t, "2026-11-28", lineOf(t, b.list(t), "strip.sleeve").Due)
	_, err := b.try(
		"parts-here", record.Draft{Supersedes: second.ID, Says: &acts.Strike{Reason: "never sent"}}, mechanic,
	)
	require.NoError(t, err)
	assert.Equal(t, buying.LineToOrder, lineOf(t, b.list(t), "strip.sleeve").State)
}

func TestSomebodyPutsALineOnTheList(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	price, lead, deposit := quantity.MoneyOf(2.5), quantity.Count(3), quantity.MoneyOf(40)
	b.must("parts-here", record.Draft{Says: &acts.Wanted{Lines: []acts.OrderLine{
		{
			Name: "Fork nut M7 x 1.0", Pieces: 2, Supplier: "Bolt shop", Price: &price, Lead: &lead,
			Reason: "thread pulled",
		},
		{
			Name: "Case to be bored", Kind: "sent-out", Supplier: "Machine works", Lead: &lead,
			Reason: "bore 72.04 mm, agreed 72.00 mm",
		},
		{Name: "Shift motor", Kind: "exchange", Deposit: &deposit},
	}}})
	v := b.list(t)
	assert.Equal(t, 2, lineOf(t, v, "own-1").Pieces)
	assert.Equal(t, "to send", lineOf(t, v, "own-2").StateSays)
	b.must("parts-here", ordering(acts.OrderLine{Line: "own-2"}))
	assert.Equal(t, "away", lineOf(t, b.list(t), "own-2").StateSays)
	b.must("parts-here", record.Draft{Says: &acts.Came{Lines: []acts.OrderLine{
		{
			Line: "own-2", Outcome: "fits", Compared: []acts.Compared{{What: "bore", Old: "72.00 mm", New: "72 mm"}},
		}, {Line: "own-3", Outcome: "fits"},
	}}})
	v = b.list(t)
	assert.Equal(t, "back here, compared", lineOf(t, v, "own-2").StateSays)
	assert.Equal(t, "here, old unit still to go back", lineOf(t, v, "own-3").StateSays)
	assert.True(t, lineOf(t, v, "own-3").OldOpen)
	assert.False(t, lineOf(t, v, "own-2").OldOpen, "it was sent out, not exchanged")
	b.must("parts-here", came(acts.OrderLine{Line: "own-3", Outcome: "deposit-back"}))
	assert.Equal(t, "here", lineOf(t, b.list(t), "own-3").StateSays)
	assert.False(t, lineOf(t, b.list(t), "own-3").OldOpen)
	b.must("parts-here", wanted(acts.OrderLine{Line: "own-1", Outcome: "not-needed", Reason: "found one"}))
	assert.Equal(t, buying.LineNotNeeded, lineOf(t, b.list(t), "own-1").State)
	b.must("parts-here", wanted(acts.OrderLine{Name: "Another"}))
	assert.Equal(t, "Another", lineOf(t, b.list(t), "own-4").Name, "a number is given once")
}

func TestAVerdictTakenBackLeavesWhatWasOrdered(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", ordering(acts.OrderLine{Line: "strip.sleeve"}))
	var verdict record.Entry
	for _, e := range b.ledger.Entries {
		if e.Is(acts.Verdict{}) && e.Item.Name == "sleeve" {
			verdict = e
		}
	}
	b.must("parts", record.Draft{Supersedes: verdict.ID, Says: &acts.Verdict{Outcome: "reuse"}})
	v := b.list(t)
	assert.Equal(t, "No longer needed", v.Groups[len(v.Groups)-1].Title)
	assert.Equal(t, buying.LineOrdered, lineOf(t, v, "strip.sleeve").State)
	assert.False(t, lineOf(t, v, "strip.sleeve").Asked)
}

func TestWhatNoPartsListTakes(t *testing.T) {
	t.Parallel()
	minus, lead := quantity.MoneyOf(-1), quantity.Count(-3)
	long := make([]acts.OrderLine, 301)
	for name, c := range map[string]struct {
		d     record.Draft
		names string
	}{
		"a day that is over":    {due("2026-11-01"), "due"},
		"no day":                {due("Friday"), "due"},
		"a day in another life": {due("2126-11-27"), "due"},
		"nobody sends it": {
			record.Draft{Says: &acts.Ordered{Lines: []acts.OrderLine{{Line: "strip-cover.seal"}}}},
			"supplier",
		},
		"a line that is none":     {ordering(acts.OrderLine{Line: "strip.nothing"}), "lines[0].line"},
		"a part nobody condemned": {ordering(acts.OrderLine{Line: "strip.gear"}), "lines[0].line"},
		"twice in one order": {
			ordering(acts.OrderLine{Line: "strip-cover.seal"}, acts.OrderLine{Line: "strip-cover.seal"}), "lines[1].line",
		},
		"no lines":                {ordering(), "lines"},
		"too many":                {record.Draft{Says: &acts.Wanted{Lines: long}}, "lines"},
		"a price below nothing":   {wanted(acts.OrderLine{Name: "x", Price: &minus}), "lines[0].price"},
		"a lead time in the past": {wanted(acts.OrderLine{Name: "x", Lead: &lead}), "lines[0].lead_days"},
		"no name":                 {wanted(acts.OrderLine{Pieces: 2}), "lines[0].name"},
		"not needed without why": {wanted(acts.OrderLine{Line: "strip-cover.seal", Outcome: "not-needed"}),
			"lines[0].reason"},
		"no outcome":       {came(acts.OrderLine{Line: "strip-cover.seal"}), "lines[0].outcome"},
		"back without why": {came(acts.OrderLine{Line: "strip-cover.seal", Outcome: "back"}), "lines[0].reason"},
		"a deposit on a plain part": {came(acts.OrderLine{Line: "strip-cover.seal", Outcome: "deposit-back"}),
			"lines[0].outcome"},
		"an interface without a new": {
			came(acts.OrderLine{Line: "strip-cover.seal", Outcome: "fits",
				Compared: []acts.Compared{{What: "x", Old: "1"}}}),
			"lines[0].compared[0].new",
		},
		"a way that is none": {record.Draft{Says: &acts.Decision{Outcome: "gold"}},
			"outcome"},
		"nothing, though parts are": {record.Draft{Says: &acts.Decision{Outcome: "nothing"}},
			"reason"},
	} {
		t.Run(name, func(t *testing.T) {
			b := atParts(t)
			before := len(b.ledger.Entries)
			_, err := b.try("parts-here", c.d, mechanic)
			require.ErrorContains(t, err, c.names)
			assert.Len(t, b.ledger.Entries, before)
		})
	}
}

// TestThePartsListIsFoldedAlike: an entry added to a state gives what folding
// the whole record gives, at every step of the way.
func TestThePartsListIsFoldedAlike(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", ordering(acts.OrderLine{Line: "strip.sleeve"}))
	b.must("parts-here", came(acts.OrderLine{Line: "strip.sleeve", Outcome: "fits"}))
	for n := range b.ledger.Entries {
		whole := b.ledger
		whole.Entries = whole.Entries[:n]
		fresh := record.Ledger{Rebuild: whole.Rebuild, Plan: whole.Plan, Entries: whole.Entries}
		again := fresh.Fold()
		for _, step := range whole.Plan.Steps {
			s1, n1 := fresh.State().Status(step)
			s2, n2 := again.State().Status(step)
			require.Equal(t, s1, s2)
			require.Equal(t, n1, n2)
		}
	}
	grown := b.ledger.State()
	fresh := record.Ledger{Rebuild: b.ledger.Rebuild, Plan: b.ledger.Plan, Entries: b.ledger.Entries}
	for _, step := range b.ledger.Plan.Steps {
		s1, n1 := grown.Status(step)
		s2, n2 := fresh.State().Status(step)
		require.Equal(t, s1, s2, step.ID)
		require.Equal(t, n1, n2, step.ID)
	}
}

func statusOf(b *bench, id string) record.Status {
	step, _ := b.ledger.Plan.Step(id)
	status, _ := b.ledger.State().Status(step)
	return status
}

func says(t *testing.T, b *bench, step, entry string) string {
	t.Helper()
	v, err := record.MakeStep(b.ledger, step, mechanic, b.now.Add(time.Minute))
	require.NoError(t, err)
	for _, e := range v.Frame().Entries {
		if e.ID == entry {
			return e.Says
		}
	}
	raw, _ := json.Marshal(v.Frame().Entries)
	require.Fail(t, "no such entry", string(raw))
	return ""
}

// What goes out is sent with what was read of it and what was agreed; as it
// comes back it is held against that.
func TestWorkIsSentOutWithItsReadings(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", wanted(acts.OrderLine{Name: "Case to be bored", Kind: "sent-out"}))
	going := func(sent ...acts.Sent) record.Draft { return ordering(acts.OrderLine{Line: "own-1", Sent: sent}) }
	for names, d := range map[string]record.Draft{
		"lines[0].sent[0].what: ":  going(acts.Sent{Reads: "62.03 mm"}),
		"lines[0].sent[0].reads: ": going(acts.Sent{What: "bore"}),
		"lines[0].sent: ":          going(make([]acts.Sent, 40)...),
		"lines[0].sent:": ordering(acts.OrderLine{Line: "strip.sleeve",
			Sent: []acts.Sent{{What: "bore", Reads: "1 mm"}}}),
		"nothing is sent out": came(
			acts.OrderLine{Line: "own-1", Outcome: "fits", Sent: []acts.Sent{{What: "bore", Reads: "1 mm"}}},
		),
	} {
		_, err := b.try("parts-here", d, mechanic)
		require.ErrorContains(t, err, names)
	}
	e := b.must("parts-here", going(acts.Sent{What: "bore", Reads: "62.03 mm", Agreed: "62.00 mm"},
		acts.Sent{What: "finish", Agreed: "honed"}))
	assert.Contains(
		t, says(t, b, "parts-here", e.ID), "Case to be bored, bore 62.03 mm, agreed 62.00 mm, finish, agreed honed",
	)
	line := lineOf(t, b.list(t), "own-1")
	assert.Equal(t, []acts.Sent{{What: "bore", Reads: "62.03 mm", Agreed: "62.00 mm"},
		{What: "finish", Agreed: "honed"}}, line.Sent)
	b.must("parts-here", came(acts.OrderLine{
		Line: "own-1", Outcome: "back", Reason: "bored too far", Compared: []acts.Compared{{
			What: "bore", Old: "62.00 mm", New: "62.05 mm",
		}},
	}))
	assert.Equal(t, "bore: 62.05 mm instead of 62.00 mm", lineOf(t, b.list(t), "own-1").Differs)
}

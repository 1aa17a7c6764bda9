package workshop_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/decision"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

func promised(day string) record.Draft {
	return record.Draft{Says: &acts.Promised{Due: day}}
}

// deadline is how many days the ways are held against.
func (b *bench) deadline(t *testing.T) any {
	v, err := record.MakeStep(b.ledger, "way", lead, b.now)
	require.NoError(t, err)
	for _, w := range v.Frame().Weighed {
		if w.Calc == "decide" {
			return w.Input["deadline_days"]
		}
	}
	require.Fail(t, "nothing is weighed")
	return nil
}

// A new promise counts from then on; the first stays sealed, and stands again
// when the new one is struck.
func TestAnotherDayIsPromised(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", record.Draft{Says: &acts.Decision{Outcome: "seals"}})
	late := ordering(acts.OrderLine{Line: "kit.seals"}, acts.OrderLine{Line: "strip.washer"},
		acts.OrderLine{Line: "strip.sleeve"})
	late.Says.(*acts.Ordered).Due = "2026-12-02"
	b.must("parts-here", late)
	assert.Contains(t, b.ledger.Rebuild.Place.WaitsFor, "2 days after the promised date")
	before := b.deadline(t)

	said := b.must("parts-here", promised("2026-12-04"))
	place := b.ledger.Rebuild.Place
	assert.Equal(t, "2026-12-04", place.Promised)
	assert.NotContains(t, place.WaitsFor, "after the promised date")
	assert.Equal(t, "2026-11-30", b.ledger.Rebuild.Promised, "as it was sealed")
	assert.Equal(t, -1, b.list(t).Last.Late, "the building comes after the last part")
	after := b.deadline(t)
	assert.NotEqual(t, before, after, "the ways are held against the new day")
	assert.Equal(t, place, unfolded(b.ledger).State().Standing(), "folded or grown, it is the same")

	again := promised("2026-12-04")
	again.Supersedes, again.Says.(*acts.Promised).Reason = said.ID, "the ship is late"
	said = b.must("parts-here", again)
	b.must("parts-here", record.Draft{Supersedes: said.ID, Says: &acts.Strike{Reason: "the customer said no"}})
	assert.Equal(t, "2026-11-30", b.ledger.Rebuild.Place.Promised)
	assert.Contains(t, b.ledger.Rebuild.Place.WaitsFor, "2 days after the promised date")
}

func TestADayThatCannotBePromised(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	for _, day := range []string{"", "Friday", "2026-11-01", "2126-11-27", "2026-11-30"} {
		_, err := b.try("parts-here", promised(day), mechanic)
		require.ErrorContains(t, err, "due:", day)
	}
	steps := b.ledger.Plan.Steps
	_, err := b.try(steps[len(steps)-1].ID, promised("2026-12-04"), mechanic)
	require.NoError(t, err, "at any step, the lead's too")
	_, err = b.try("parts-here", promised("2026-12-07"), reader)
	require.ErrorContains(t, err, "a view-only account")
}

// The day rests on the way's work, on what has to come, and on what is promised
// no later in the same hands.
func TestTheDayThatCanBePromised(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.ledger.Rebuild.Promised = "2026-12-04"
	b.walkUntil("way")
	propose := func(open ...buying.OpenPromise) buying.PromiseView {
		v, err := buying.Promise(b.ledger, "rebuild", open, shop.Shop{}, b.now)
		require.NoError(t, err)
		return v
	}
	alone := propose()
	require.NotEmpty(t, alone.Day, alone.Says)
	assert.Contains(t, alone.Says, "kept in 8 of 10 cases")
	mine := buying.OpenPromise{Number: "26-002", Promised: "2026-11-25", Hours: 60}
	later := buying.OpenPromise{Number: "26-003", Promised: "2027-03-01", Hours: 500}
	with := propose(mine, later)
	assert.Len(t, with.Before, 1, "what is promised later does not come before it")
	assert.InDelta(t, 60, with.Hours, 0)
	assert.Greater(t, with.Day, alone.Day)
	unknown := propose(buying.OpenPromise{Number: "26-004", Promised: "2026-11-25"})
	assert.Equal(t, 1, unknown.Unknown)
	assert.Contains(t, unknown.Says, "1 without an estimate")

	_, err := buying.Promise(b.ledger, "by-boat", nil, shop.Shop{}, b.now)
	require.ErrorContains(t, err, "way: ")
	out, err := buying.Promise(b.ledger, "send-out", nil, shop.Shop{}, b.now)
	require.NoError(t, err)
	assert.Contains(t, out.Says, "Choose an option first", "a way, but the sheet has no figures of it")
	none, err := buying.Promise(b.ledger, "", nil, shop.Shop{}, b.now)
	require.NoError(t, err)
	assert.Empty(t, none.Day, "no way is chosen")
	b.must("way", record.Draft{Says: &acts.Decision{Outcome: "rebuild"}})
	taken, err := buying.Promise(b.ledger, "", nil, shop.Shop{}, b.now)
	require.NoError(t, err)
	assert.Equal(t, alone.Way, taken.Way)
}

// A shop that works on Saturdays and not on one Monday promises so.
func TestADayOfWorkIsTheShops(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.ledger.Rebuild.Promised = "2026-12-04"
	b.walkUntil("way")
	day := func(s shop.Shop) string {
		v, err := buying.Promise(b.ledger, "rebuild", []buying.OpenPromise{{Promised: "2026-11-25", Hours: 20}}, s,
			b.now)
		require.NoError(t, err)
		return v.Day
	}
	usual := day(shop.Shop{})
	assert.Less(t, day(shop.Shop{OpenDays: []string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}}), usual)
	assert.Greater(t, day(shop.Shop{DaysOff: []string{usual}}), usual)
	assert.Error(t, shop.Shop{Name: "x", Units: "metric", Currency: "EUR", Zone: "UTC", Paper: "A4",
		OpenDays: []string{"sunday"}}.Check("").Err())
}

// Nobody is promised a Saturday or a Sunday, and more in the same hands never
// makes a day earlier.
func TestPromisesAreWorkdaysAndOnlyGrow(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.ledger.Rebuild.Promised = "2026-12-04"
	b.walkUntil("way")
	rapid.Check(t, func(t *rapid.T) {
		now := b.now.AddDate(0, 0, rapid.IntRange(0, 13).Draw(t, "days later"))
		var open []buying.OpenPromise
		last := ""
		for _, hours := range rapid.SliceOfN(rapid.Float64Range(0, 40), 0, 5).Draw(t, "hours") {
			v, err := buying.Promise(b.ledger, "rebuild", open, shop.Shop{}, now)
			require.NoError(t, err)
			day, err := time.Parse(time.DateOnly, v.Day)
			require.NoError(t, err)
			assert.NotContains(t, []time.Weekday{time.Saturday, time.Sunday}, day.Weekday())
			assert.GreaterOrEqual(t, v.Day, last)
			last = v.Day
			due := now.AddDate(0, 0, rapid.IntRange(0, 20).Draw(t, "due")).Format(time.DateOnly)
			open = append(open, buying.OpenPromise{Promised: due, Hours: hours})
		}
	})
}

func ways(t require.TestingT, b *bench, change func([]decision.Option) []decision.Option) record.Draft {
	raw, err := json.Marshal(change(append([]decision.Option(nil), b.ledger.Plan.Sheet.Ways...)))
	require.NoError(t, err)
	return record.Draft{Says: &acts.Ways{Figure: raw}}
}

// Ranges that are known better for this unit, and a way of one's own, are
// weighed and can be taken; the customer who agreed before is asked again.
func TestTheWaysAreSaidForThisUnit(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("way")
	decided := b.must("way", record.Draft{Says: &acts.Decision{Outcome: "rebuild"}})
	b.must("way", yes("Nora Quill", 900))
	said := b.must("way", ways(t, b, func(list []decision.Option) []decision.Option {
		own := list[0]
		own.ID, own.Says, own.Parts = "own", "Parts from the scrapped one", decision.Range{Low: 40, High: 60}
		return append(list, own)
	}))
	status, needs := b.status("way")
	assert.Equal(t, record.Open, status)
	assert.Equal(t, "get the customer's approval for this decision", needs)
	b.must("way", record.Draft{Supersedes: decided.ID, Says: &acts.Decision{Outcome: "own"}})
	assert.Equal(t, "Parts from the scrapped one", buying.Costs(b.ledger).Way)
	assert.Equal(t, quantity.MoneyOf(50), *buying.Costs(b.ledger).Lines[1].Estimated)
	b.must("way", record.Draft{Supersedes: said.ID, Says: &acts.Strike{Reason: "it is sold"}})
	assert.Empty(t, buying.Costs(b.ledger).Way, "a way that is gone costs nothing")
	status, needs = b.status("way")
	assert.Equal(t, record.Open, status)
	assert.Equal(t, "decide", needs)
}

func TestWaysThatCannotBeWeighed(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("way")
	for what, x := range map[string]struct {
		change func([]decision.Option) []decision.Option
		at     string
	}{
		"one left out": {func(l []decision.Option) []decision.Option { return l[1:] }, "figure: "},
		"more at least": {func(l []decision.Option) []decision.Option { l[0].Parts.Low = 1e6; return l },
			"figure[0].parts.low: "},
		"a chance above one": {func(l []decision.Option) []decision.Option { l[0].Fail.High = 7; return l },
			"figure[0].failure_chance.high: "},
		"a way without words": {func(l []decision.Option) []decision.Option { l[0].Says = " "; return l },
			"figure[0].says: "},
		"one twice": {func(l []decision.Option) []decision.Option { return append(l, l[0]) }, "].id: "},
	} {
		_, err := b.try("way", ways(t, b, x.change), mechanic)
		require.ErrorContains(t, err, x.at, what)
	}
	_, err := b.try("way", record.Draft{Says: &acts.Ways{Figure: json.RawMessage(`[{"id":7}]`)}}, mechanic)
	require.ErrorContains(t, err, "figure")
	_, err = b.try("identify", ways(t, b, func(l []decision.Option) []decision.Option { return l }), mechanic)
	require.ErrorContains(t, err, "act: ")
}

// A copy of the book from elsewhere may say ways that no work can have: where
// the rebuild stands is shown all the same.
func TestNoFigureOfTheWaysHidesWhereARebuildStands(t *testing.T) {
	t.Parallel()
	for _, hours := range []quantity.Number{1e308, -1e308, 1e-320} {
		b, err := demoBook()
		require.NoError(t, err)
		c, err := b.Copy("transfer-case-dog", "brakka-t2")
		require.NoError(t, err)
		c.Sheet.Ways = []decision.Option{
			{
				ID: "rebuild", Says: "x", Hours: decision.Range{Low: hours, High: hours},
				Parts: decision.Range{Low: hours, High: hours},
			},
		}
		x := benchWith(t, c)
		x.must("identify", record.Draft{Says: &acts.Note{Note: "x"}})
		for _, shown := range []any{record.MakeSheet(x.ledger), buying.Costs(x.ledger)} {
			_, err := json.Marshal(shown)
			require.NoError(t, err)
		}
	}
}

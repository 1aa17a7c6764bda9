package workshop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/record"
)

// What was said not to come stays away; a part condemned afterwards is asked for.
func TestNothingHasToComeHoldsForWhatWasKnown(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	said := b.must(
		"parts-here", record.Draft{Says: &acts.Decision{Outcome: "nothing", Reason: "all of it on the shelf"}},
	)
	assert.Equal(t, record.Done, statusOf(b, "parts-here"))
	assert.Equal(t, buying.LineNotNeeded, lineOf(t, b.list(t), "strip.sleeve").State)
	again := b.must(
		"parts-here",
		record.Draft{Supersedes: said.ID, Says: &acts.Decision{Outcome: "nothing", Reason: "all of it in the van"}},
	)
	assert.Equal(t, record.Done, statusOf(b, "parts-here"), "a corrected reason brings nothing back")

	var gear record.Entry
	for _, e := range b.ledger.Entries {
		if e.Is(acts.Verdict{}) && e.Item.Name == "gear" {
			gear = e
		}
	}
	b.must("parts", record.Draft{Supersedes: gear.ID, Says: &acts.Verdict{Outcome: "replace", Reason: "a tooth gone"}})
	assert.Equal(t, record.Open, statusOf(b, "parts-here"))
	assert.Equal(t, buying.LineToOrder, lineOf(t, b.list(t), "strip.gear").State)
	assert.Equal(t, buying.LineNotNeeded, lineOf(t, b.list(t), "strip.sleeve").State)
	_, err := b.try(
		"parts-here", record.Draft{Supersedes: again.ID, Says: &acts.Strike{Reason: "the van was empty"}}, mechanic,
	)
	require.NoError(t, err)
	assert.Equal(t, buying.LineToOrder, lineOf(t, b.list(t), "strip.sleeve").State)
}

// A list that is known better, line by line as it stands, stays what it is: no
// line comes back that was left out, and no kit is lost.
func TestAListBroughtInAsItWentOutChangesNothing(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.must("parts-here", record.Draft{Says: &acts.Decision{Outcome: "seals"}})
	b.must("parts-here", wanted(acts.OrderLine{Line: "strip.washer", Outcome: "not-needed",
		Reason: "one in the drawer"}))
	b.must("parts-here", ordering(acts.OrderLine{Line: "strip.sleeve"}))
	before := b.list(t)
	var lines []acts.OrderLine
	for _, g := range before.Groups {
		for _, l := range g.Lines {
			lines = append(
				lines,
				acts.OrderLine{Line: l.Line, Name: l.Name, Pieces: quantity.Count(l.Pieces), Price: l.Price,
					Lead: l.Lead},
			)
		}
	}
	b.must("parts-here", record.Draft{Says: &acts.Wanted{Lines: lines}})
	after := b.list(t)
	require.Len(t, after.Groups, len(before.Groups))
	for i, g := range before.Groups {
		require.Len(t, after.Groups[i].Lines, len(g.Lines), g.Title)
		for k, l := range g.Lines {
			assert.Equal(t, l.State, after.Groups[i].Lines[k].State, l.Name)
		}
	}
	assert.InDelta(t, before.Sum.Sum(), after.Sum.Sum(), 1e-9)
	assert.Equal(t, before.Needs, after.Needs)
}

func TestNothingHasToComeIsSaid(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "shift-linkage", "holm-l5")
	b.walkUntil("parts-here")
	v := b.list(t)
	for _, g := range v.Groups {
		for _, l := range g.Lines {
			b.must("parts-here", wanted(acts.OrderLine{Line: l.Line, Outcome: "not-needed",
				Reason: "from the shelf"}))
		}
	}
	if len(v.Groups) == 0 {
		assert.Contains(t, v.Needs, "or that nothing has to")
		b.must("parts-here", record.Draft{Says: &acts.Decision{Outcome: "nothing"}})
	}
	assert.Equal(t, record.Done, statusOf(b, "parts-here"))
}

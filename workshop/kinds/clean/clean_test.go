package clean_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/kinds/clean"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

var lead = people.Person{Login: "ilva", Name: "Ilva Torn", Role: people.Lead}

func washing() book.Step {
	return book.Step{
		ID: "wash", Kind: "clean", Title: "Plates washed", Say: "Wash them.",
		Choices: []book.Choice{{ID: "solvent", Text: "Solvent"}, {ID: "hot", Text: "Hot wash"}},
		Items:   []book.Item{{ID: "dry", Text: "Dry"}, {ID: "oiled", Text: "Oiled"}},
	}
}

func TestWhatIsWashedIsReadyAfterwards(t *testing.T) {
	t.Parallel()
	plan, err := kinds.NewPlan(book.Copy{Route: book.Route{Stations: []book.Station{
		{ID: book.AssembleAt, Steps: []book.Step{washing()}},
	}}})
	require.NoError(t, err)
	l := record.Ledger{Rebuild: record.Rebuild{OpenedBy: lead}, Plan: plan}
	say := func(item string, said acts.Outcome) {
		p, err := record.Propose(l, "wash", record.Draft{Item: record.ReadPlace(item), Says: &said}, lead, time.Now())
		require.NoError(t, err)
		l = p.After
	}
	step, _ := plan.Step("wash")
	needs := func() string {
		_, n := l.State().Status(step)
		return record.NeedWords(l.State(), step, n)
	}
	assert.Equal(t, "3 more lines", needs())
	say("method", acts.Outcome{Outcome: "hot", Minutes: 25})
	say("dry", acts.Outcome{Outcome: "done"})
	assert.Equal(t, "1 more line", needs())
	say("oiled", acts.Outcome{Outcome: "not-done"})
	assert.Contains(t, needs(), "Oiled: not as it should be. Put it right and answer again")
	assert.Equal(t, "Method: hot wash, 25 minutes", record.Words(l.State(), step, &l.Entries[0]))
	_, err = record.Propose(
		l,
		"wash",
		record.Draft{Item: record.ReadPlace("method"), Says: &acts.Outcome{Outcome: "fire"}},
		lead,
		time.Now(),
	)
	require.ErrorContains(t, err, "outcome")
	v, err := record.MakeStep(l, "wash", lead, time.Now())
	require.NoError(t, err)
	assert.Len(t, v.(*clean.CleanStep).Items, 3)
}

func TestAWashOfNothingIsNoStep(t *testing.T) {
	t.Parallel()
	s := washing()
	s.Choices, s.Items = nil, []book.Item{{ID: "method", Text: "Dry"}}
	r := book.Route{
		ID:       "r",
		Title:    "R",
		UnitKind: "u",
		Stations: []book.Station{{ID: "assemble", Steps: []book.Step{s}}},
	}
	faults := r.Check(book.Known{Kinds: kinds.Natures()}).Error()
	assert.Contains(t, faults, "steps[0].choices")
	assert.Contains(t, faults, "steps[0].items[0]")
}

package workshop_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

// at keeps a note of somebody who was so long at a step before it.
func (b *bench) at(t *testing.T, by people.Person, step string, after, spent time.Duration) record.Entry {
	t.Helper()
	b.now = b.now.Add(after)
	p, err := record.Propose(
		b.ledger,
		step,
		record.Draft{Says: &acts.Note{Note: "x", Spent: acts.Spent{AtStep: int(spent.Seconds())}}},
		by,
		b.now,
	)
	require.NoError(t, err)
	b.keep(p)
	return p.Entry
}

func timeAt(c buying.Cost, step string) buying.StepTime {
	for _, s := range c.Steps {
		if s.Step == step {
			return s
		}
	}
	return buying.StepTime{}
}

func TestTimeIsCountedOnceAndCorrectedByHand(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.at(t, mechanic, "identify", 30*time.Minute, 10*time.Minute)
	b.at(
		t, mechanic, "strip", 5*time.Minute, 20*time.Minute,
	) // two screens open: fifteen minutes of it are counted already
	b.at(t, lead, "strip", 0, 10*time.Minute)
	c := buying.Costs(b.ledger)
	assert.InDelta(t, 10, timeAt(c, "identify").Minutes, 1e-9)
	assert.InDelta(t, 5+10, timeAt(c, "strip").Minutes, 1e-9)

	said := b.must("strip", record.Draft{Item: record.ReadPlace("odo"), Says: &acts.Time{Minutes: 40}})
	assert.InDelta(t, 40+10, timeAt(buying.Costs(b.ledger), "strip").Minutes, 1e-9)
	assert.Equal(t, said.ID, timeAt(buying.Costs(b.ledger), "strip").People[1].Entry,
		"it is told from what was counted")
	_, err := b.try("strip", record.Draft{Item: record.ReadPlace("ilva"), Says: &acts.Time{Minutes: 4}}, mechanic)
	require.ErrorContains(t, err, "only a lead")
	_, err = b.try("strip", record.Draft{Item: record.ReadPlace("nobody"), Says: &acts.Time{Minutes: 4}}, lead)
	require.ErrorContains(t, err, "item:")
	_, err = b.try("strip", record.Draft{Says: &acts.Time{Minutes: 2000}}, mechanic)
	require.ErrorContains(t, err, "minutes:")
	_, err = b.try("strip", record.Draft{Says: &acts.Note{Note: "x", Spent: acts.Spent{AtStep: -4}}}, mechanic)
	require.ErrorContains(t, err, "spent:")
}

// However screens overlap, nobody works longer than the clock ran.
func TestNobodyWorksLongerThanTheClock(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	begun := b.now
	for i, step := range []string{"identify", "strip", "identify", "parts", "strip"} {
		b.at(t, mechanic, step, time.Duration(3+i)*time.Minute, time.Duration(17-i)*time.Minute)
	}
	sum := 0.0
	for _, s := range buying.Costs(b.ledger).Steps {
		sum += s.Minutes
	}
	assert.LessOrEqual(t, sum, b.now.Sub(begun).Minutes()+17)
	assert.InDelta(t, 17+4+5+6+7, sum, 1e-9)
}

func TestWhatItCostsSoFar(t *testing.T) {
	t.Parallel()
	b := atParts(t)
	b.at(t, mechanic, "strip", time.Hour, time.Hour)
	price := quantity.MoneyOf(96)
	b.must("parts-here", ordering(acts.OrderLine{Line: "strip.sleeve", Price: &price}))
	b.must("parts-here", record.Draft{Says: &acts.Came{Lines: []acts.OrderLine{{Line: "kit.seals", Outcome: "fits"}}}})
	c := buying.Costs(b.ledger)
	lines := map[string]buying.CostLine{}
	for _, l := range c.Lines {
		lines[l.ID] = l
	}
	require.Positive(t, c.Rate)
	assert.InDelta(t, c.Rate.Sum(), lines["work"].SoFar.Sum(), 0.02)
	assert.Equal(t, quantity.MoneyOf(96+22), lines["parts"].SoFar)
	assert.Equal(t, quantity.MoneyOf(96), lines["parts"].Coming)
	require.NotNil(t, lines["sum"].Estimated)
	require.NotNil(t, lines["fluids"].Estimated)
	assert.Nil(t, lines["outside"].Estimated, "nothing is sent out on this way")
	assert.Equal(t, *lines["sum"].Estimated,
		*lines["work"].Estimated+*lines["parts"].Estimated+*lines["fluids"].Estimated)
	assert.Equal(t, lines["sum"].SoFar, lines["work"].SoFar+lines["parts"].SoFar)
	assert.Zero(t, c.Over, "nobody said up to what")
	b.must("way", record.Draft{Says: &acts.Agreed{Who: "the foreman", Sum: quantity.MoneyOf(100)}})
	assert.InDelta(t, lines["sum"].SoFar.Sum()-100, buying.Costs(b.ledger).Over.Sum(), 0.02)
}

// What the costs will come to is held against the customer's yes, not only what
// they are so far.
func TestCostsAreHeldAgainstTheYes(t *testing.T) {
	t.Parallel()
	thousand := &decide.AgreedView{Sum: quantity.MoneyOf(1000)}
	estimate := func(n float64) *quantity.Money { return new(quantity.MoneyOf(n)) }
	for name, c := range map[string]struct {
		agreed    *decide.AgreedView
		estimated *quantity.Money
		soFar     float64
		verdict   string
		says      string
	}{
		"within":               {thousand, estimate(900), 400, "in", "400 of 900; 500 left."},
		"estimate just agreed": {thousand, estimate(1000), 400, "in", "400 of 1000; 600 left."},
		"estimate above the yes": {
			thousand, estimate(1040), 400, "undecided",
			"400 so far. The estimate is 40 over the 1000 the customer approved. Ask before it is spent.",
		},
		"more than estimated": {thousand, estimate(900), 950.5, "undecided", "950.50: 50.50 over the estimate."},
		"over the yes": {thousand, estimate(900), 1020, "out",
			"20 over what the customer approved. Ask before you do more."},
		"nobody agreed": {nil, estimate(900), 400, "in", "400 of 900; 500 left."},
		"no way, and nobody asked": {nil, nil, 80, "undecided",
			"80 so far. No estimate: the chosen option has no figures."},
	} {
		t.Run(name, func(t *testing.T) {
			costs := buying.Cost{Agreed: c.agreed}
			if c.agreed != nil {
				costs.Over = max(0, quantity.MoneyOf(c.soFar)-c.agreed.Sum)
			}
			verdict, says := costs.Judge(buying.CostLine{Estimated: c.estimated, SoFar: quantity.MoneyOf(c.soFar)})
			assert.Equal(t, [2]string{c.verdict, c.says}, [2]string{verdict, says})
		})
	}
}

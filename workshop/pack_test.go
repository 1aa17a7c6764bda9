package workshop_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

func loose(p acts.Piece) acts.Piece { p.Loose = true; return p }

func fits(pieces ...acts.Piece) record.Draft {
	return record.Draft{Says: &acts.Fit{Pack: pieces}}
}

func last(b *bench) record.Entry { return b.ledger.Entries[len(b.ledger.Entries)-1] }

func lastTrial(b *bench) measure.Trial {
	trials := viewAt[*measure.MeasureStep](b, "end-float").Trials
	return trials[len(trials)-1]
}

// What was found in place is the pack that the float is worked out from, and no
// drawer hears of it.
func TestAPackThatIsInThereIsSaidAndReckonedWith(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	before := b.drawer["0.6 mm"]
	said := b.must("end-float", fits(loose(piece(t, "0.6 mm", 1)), loose(piece(t, "0.37 mm", 1))))
	b.must("end-float", reading(t, "0.3 mm"))
	e := b.must("end-float", reading(t, "0.3 mm"))
	assert.Equal(t, before, b.drawer["0.6 mm"])
	assert.Len(t, viewAt[*measure.MeasureStep](b, "end-float").Trials, 1, "it is still as found")
	assert.Equal(t, "0.97 mm", lastTrial(b).Sum.String())
	assert.Contains(t, string(e.Result), `"required_pack"`)
	first := viewAt[*measure.MeasureStep](b, "end-float").Entries[0]
	assert.Equal(t, said.ID, first.ID)
	assert.Contains(t, first.Says, "in there now: 1 × 0.6 mm + 1 × 0.37 mm")

	_, err := b.try("end-float", fits(piece(t, "0.37 mm", 2)), lead)
	require.ErrorContains(t, err, "pack[0].count", "one of it is there")
	b.must("end-float", fits(piece(t, "0.37 mm", 1), piece(t, "0.6 mm", 2)))
	assert.Equal(t, before-1, b.drawer["0.6 mm"], "the one in place stays in, one comes out of the drawer")
	assert.Equal(t, "1 × 0.37 mm + 2 × 0.6 mm", record.PackWords(lastTrial(b).Pack))
}

// After a fit it may be another that is in there: the drawer gets back what did
// not go in, and the trial is the same.
func TestWhatWentInInsteadIsPutRight(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", fits(piece(t, "0.52 mm", 1)))
	promised := lastTrial(b).Expected
	require.NotEmpty(t, promised)
	d := fits(piece(t, "0.56 mm", 1))
	d.Supersedes = last(b).ID
	other := b.must("end-float", d)
	assert.Equal(t, []int{2, 1}, []int{b.drawer["0.52 mm"], b.drawer["0.56 mm"]})
	assert.Equal(t, 2, lastTrial(b).Number)
	b.must("end-float", record.Draft{Supersedes: other.ID, Says: &acts.Strike{}})
	assert.Equal(t, []int{2, 2}, []int{b.drawer["0.52 mm"], b.drawer["0.56 mm"]})
	assert.Equal(t, 1, lastTrial(b).Number)
}

func TestAPackOfNothingIsNone(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	_, err := b.try("end-float", fits(), lead)
	require.ErrorContains(t, err, "pack: a pack of nothing is none")
	_, err = b.try("end-float", fits(piece(t, "0.52 mm", 1), piece(t, "0.52 mm", 1)), lead)
	require.ErrorContains(t, err, "pack[1].thickness: 0.52 mm is listed twice")
	_, err = b.try("end-float", fits(loose(piece(t, "60 mm", 1))), lead)
	require.ErrorContains(t, err, "pack[0].thickness")
}

// Where nobody said which drawer it is, there is nothing to fit from, and the
// step goes on all the same.
func TestWithoutADrawerTheStepGoesOn(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.ledger.DrawerOf = func(string) (string, error) { return "", nil }
	b.walkUntil("end-float")
	view := viewAt[*measure.MeasureStep](b, "end-float")
	assert.Empty(t, view.Packs.Drawer)
	assert.Empty(t, view.Packs.Stock)
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", reading(t, "0.6 mm"))
	_, err := b.try("end-float", fits(piece(t, "0.52 mm", 1)), lead)
	require.ErrorContains(t, err, "pack[0].thickness")
	b.must("end-float", fits(loose(piece(t, "0.52 mm", 1))))
	assert.Equal(t, "0.52 mm", lastTrial(b).Sum.String())
}

// Another drawer is named for the family meanwhile: what lies in place stays where
// it came from, only what is new comes out of the other.
func TestWhatLiesInPlaceStaysOfItsDrawer(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("end-float")
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", fits(piece(t, "0.52 mm", 1)))
	b.must("end-float", reading(t, "0.6 mm"))
	b.must("end-float", reading(t, "0.6 mm"))
	b.ledger.DrawerOf = func(string) (string, error) { return "other", nil }
	b.now = b.now.Add(time.Minute)
	p, err := record.Propose(b.ledger, "end-float", fits(piece(t, "0.52 mm", 1), piece(t, "0.5 mm", 1)), lead, b.now)
	require.NoError(t, err)
	assert.Equal(t, []record.Move{{Drawer: "other", Thickness: "0.5 mm", Count: 1}}, p.Moves)
}

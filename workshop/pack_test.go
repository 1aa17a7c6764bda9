package workshop_test

import (
	"encoding/json"
	"maps"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity/quantitytest"
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

// The axle's next assembly is made up of its drawer, and taken out of it as one pack; side
// bearings set by torque are told apart by the packs tried.
func TestTheNextAssemblyComesOutOfTheDrawer(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "axle-ring-pinion", "brakka-a9")
	b.drawer = map[string]int{"0.05 mm": 9, "0.1 mm": 9, "0.5 mm": 9, "1 mm": 9}
	b.walkUntil("together")
	for ask, text := range map[string]string{"shim": "1.50 mm", "left": "2.50 mm", "right": "2.50 mm",
		"gauge": "104.80 mm", "lash": "0.35 mm", "zero-play": "5.00 mm"} {
		b.must("together", answer(t, ask, text))
	}
	view := viewAt[*measure.MeasureStep](b, "together")
	assert.False(t, view.Packs.Asked, "what is in there is answered, not fitted")
	var result struct {
		Packs []struct{ Pieces []acts.Piece }
	}
	require.NoError(t, json.Unmarshal(view.Trials[0].Result, &result))
	require.Len(t, result.Packs, 3)
	sizes := map[string]acts.Piece{}
	for _, pack := range result.Packs {
		for _, x := range pack.Pieces {
			x.Count += sizes[x.Thickness.String()].Count
			sizes[x.Thickness.String()] = x
		}
	}
	b.must("together", fits(slices.Collect(maps.Values(sizes))...))
	for size, x := range sizes {
		assert.Equal(t, 9-int(x.Count), b.drawer[size], size)
	}
	assert.Len(t, viewAt[*measure.MeasureStep](b, "together").Trials, 2)
}

func TestTheSidePackIsFoundByItsTorque(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "transaxle", "holm-x4")
	b.drawer = map[string]int{"0.02 mm": 9, "0.1 mm": 9, "0.5 mm": 9, "1 mm": 9}
	b.walkUntil("side-preload")
	step := func(torque string, pack ...acts.Piece) measure.Trial {
		b.must("side-preload", fits(pack...))
		b.must("side-preload", record.Draft{Item: record.ReadPlace("bearings"), Says: &acts.Reading{Outcome: "new"}})
		for range 3 {
			b.must("side-preload", record.Draft{Says: &acts.Reading{
				Measured: acts.Measured{Value: quantitytest.Any(t, torque)}, Read: acts.Read{Instrument: "beam-1"},
			}})
		}
		trials := viewAt[*measure.MeasureStep](b, "side-preload").Trials
		return trials[len(trials)-1]
	}
	first := step("0.30 N·m", piece(t, "1 mm", 1), piece(t, "0.1 mm", 1))
	assert.Contains(t, string(first.Result), "thicker by 0.05 mm")
	second := step("0.40 N·m", piece(t, "1 mm", 1), piece(t, "0.1 mm", 1), piece(t, "0.02 mm", 1))
	assert.Contains(t, string(second.Result), `"aim"`)
}

// An optional figure that is only half told keeps no reading from its result.
func TestThePilotBushMayBeHalfTold(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "gearbox-longitudinal", "brakka-g5")
	b.walkUntil("housing")
	b.must("housing", answer(t, "pilot-bush", "18.05 mm"))
	places := []string{"at-12", "at-3", "at-6", "at-9", "back-12", "again-3", "again-6", "again-9", "again-12"}
	for _, ask := range places {
		b.must("housing", answer(t, ask, "0 thou"))
	}
	trial := func() string { return string(viewAt[*measure.MeasureStep](b, "housing").Trials[0].Result) }
	assert.Contains(t, trial(), "measure both")
	_, err := b.try("housing", answer(t, "pilot-shaft", "18.5 mm"), lead)
	require.ErrorContains(t, err, "does not go into")
	b.must("housing", answer(t, "pilot-shaft", "18 mm"))
	assert.Contains(t, trial(), "takes up the offset")
}

package workshop_test

import (
	"encoding/json"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/core/quantity/quantitytest"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

// answer is a draft for a quantity that is asked for.
func answer(t require.TestingT, ask, text string) record.Draft {
	return record.Draft{
		Item: record.ReadPlace(ask),
		Says: &acts.Reading{Measured: acts.Measured{Value: quantitytest.Any(t, text)}},
	}
}

func (b *bench) says(step string) string {
	full, _ := b.ledger.Plan.Step(step)
	trials := measure.Trials(record.Fold(b.ledger.Plan, b.ledger.Entries), full)
	var x struct {
		Says string `json:"says"`
	}
	_ = json.Unmarshal(trials[len(trials)-1].Result, &x)
	return x.Says
}

// Free play: out, mended, measured again, in. The adjuster's turns are those of
// the free-play calculator: 10 mm of 14 to 19, pitch 1.25 mm, ratio 6.
func TestAnAskedFigureFromOutToIn(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "clutch-cable", "tarn-180")
	b.walkUntil("free-play")
	_, needs := b.status("free-play")
	assert.Equal(t, "1 more figure", needs)

	e := b.must("free-play", answer(t, "measured", "10 mm"))
	assert.Equal(t, record.ReadPlace("1.measured"), e.Item)
	assert.Equal(t, "free-play/1", e.Method)
	assert.Equal(t, metrology.Out, e.Verdict)
	assert.Contains(t, b.says("free-play"), "toward more play")
	_, needs = b.status("free-play")
	assert.Equal(t, "put it right and measure again", needs)

	_, err := b.try("free-play", record.Draft{Says: &acts.Again{}}, lead)
	assert.ErrorContains(t, err, "reason: a reason is needed")
	b.must("free-play", record.Draft{Says: &acts.Again{Reason: "adjuster turned as told"}})
	_, needs = b.status("free-play")
	assert.Equal(t, "1 more figure", needs, "a new trial begins empty")
	b.must("free-play", answer(t, "measured", "0.65 in"))
	status, _ := b.status("free-play")
	assert.Equal(t, record.Done, status)

	full, _ := b.ledger.Plan.Step("free-play")
	trials := measure.Trials(record.Fold(b.ledger.Plan, b.ledger.Entries), full)
	require.Len(t, trials, 2)
	assert.Equal(t, metrology.Out, trials[0].Verdict, "the first stays as it was")
	assert.Equal(t, "adjuster turned as told", trials[1].Changed)
	assert.Contains(t, b.lines("free-play"), "Free play at the pedal: 0.65 in; in: lock the nut and leave it")
	assert.Contains(t, b.lines("free-play"), "changed, measure again: adjuster turned as told")
}

func TestAnAnswerIsCorrectedAndStruck(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "clutch-cable", "tarn-180")
	b.walkUntil("free-play")
	first := b.must("free-play", answer(t, "measured", "10 mm"))
	_, err := b.try("free-play", answer(t, "measured", "16 mm"), lead)
	assert.ErrorContains(t, err, "correct that entry", "one answer holds its place")
	d := answer(t, "measured", "16 mm")
	d.Supersedes = first.ID
	second := b.must("free-play", d)
	assert.Equal(t, metrology.In, second.Verdict, "a correction computes anew")
	b.must("free-play", record.Draft{Supersedes: second.ID, Says: &acts.Strike{}})
	_, needs := b.status("free-play")
	assert.Equal(t, "1 more figure", needs)
}

func TestABadAnswerNamesItsField(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "clutch-cable", "tarn-180")
	b.walkUntil("free-play")
	for _, tt := range []struct {
		draft record.Draft
		says  string
	}{
		{record.Draft{Item: record.ReadPlace("measured"), Says: &acts.Reading{}}, "value: missing"},
		{
			record.Draft{Item: record.ReadPlace("measured"), Says: &acts.Reading{Outcome: "much", Measured: acts.Measured{Value: count(t, "10 mm")}}},
			"outcome: measure \"Free play at the pedal\"; it has no choices",
		},
		{answer(t, "measured", "3 L"), "value: 3 L is a volume"},
		{answer(t, "measured", "-4 mm"), "value:"},
		{answer(t, "colour", "3 mm"), `item: "colour" is not asked for here; accepted: measured`},
		{record.Draft{Says: &acts.Reckon{}}, "works out its own result"},
		{record.Draft{Says: &acts.Again{Reason: "x"}}, "measure this trial first: 1 more figure"},
		{record.Draft{Says: &acts.Accept{Reason: "x"}},
			"measure first: 1 more figure"},
	} {
		_, err := b.try("free-play", tt.draft, lead)
		assert.ErrorContains(t, err, tt.says)
	}
	assert.Equal(t, record.Open, first(b.status("free-play")), "nothing was kept")
}

func first[T, U any](a T, _ U) T { return a }

// Choices bind their value: toe on the drive side and heel on coast ask for a
// move of the pinion (common practice), middle everywhere is in.
func TestChoicesBindTheirValue(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "axle-ring-pinion", "brakka-a9")
	b.walkUntil("pattern")
	pick := func(ask, choice string) record.Entry {
		return b.must("pattern", record.Draft{Item: record.ReadPlace(ask), Says: &acts.Reading{Outcome: choice}})
	}
	_, err := b.try(
		"pattern",
		record.Draft{Item: record.ReadPlace("drive-along"), Says: &acts.Reading{Outcome: "nowhere"}},
		lead,
	)
	assert.ErrorContains(t, err, "accepted: middle, slightly-toe, toe, heel")
	_, err = b.try(
		"pattern",
		record.Draft{
			Item: record.ReadPlace("drive-along"),
			Says: &acts.Reading{Outcome: "toe", Measured: acts.Measured{Value: count(t, "3 mm")}},
		},
		lead,
	)
	assert.ErrorContains(t, err, "it is not measured")
	pick("cutting", "face-milled")
	pick("drive-along", "heel")
	pick("drive-high", "face")
	pick("coast-along", "toe")
	last := pick("coast-high", "face")
	assert.Equal(t, metrology.Out, last.Verdict)
	assert.Contains(t, b.says("pattern"), "move the pinion in")
	assert.Contains(t, b.lines("pattern"), "Drive side, root to face: Face")
	b.must("pattern", record.Draft{Says: &acts.Again{Reason: "pinion in by 0.08 mm"}})
	for _, ask := range []string{"drive-along", "drive-high", "coast-along", "coast-high"} {
		pick(ask, "middle")
	}
	pick("cutting", "face-milled")
	status, _ := b.status("pattern")
	assert.Equal(t, record.Done, status)
}

// What rests on a struck figure is gone with it, and nothing stale is accepted.
func TestAStruckFigureTakesItsResultAlong(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "axle-ring-pinion", "brakka-a9")
	b.walkUntil("backlash")
	left := b.must("backlash", answer(t, "left", "2.50 mm"))
	b.must("backlash", answer(t, "right", "2.50 mm"))
	var last record.Entry
	for _, text := range []string{"0.31 mm", "0.30 mm", "0.32 mm", "0.31 mm"} {
		last = b.must("backlash", reading(t, text))
	}
	require.Equal(t, metrology.Out, last.Verdict)
	trial := func() measure.Trial {
		full, _ := b.ledger.Plan.Step("backlash")
		trials := measure.Trials(record.Fold(b.ledger.Plan, b.ledger.Entries), full)
		return trials[len(trials)-1]
	}
	require.NotNil(t, trial().Result)
	b.must("backlash", record.Draft{Supersedes: left.ID, Says: &acts.Strike{}})
	assert.Nil(t, trial().Result)
	_, err := b.try("backlash", record.Draft{Says: &acts.Accept{Reason: "near enough"}}, lead)
	assert.ErrorContains(t, err, "1 more figure")
	b.must("backlash", answer(t, "left", "2.50 mm"))
	assert.NotNil(t, trial().Result, "typed again, it is worked out again")
	for _, e := range trial().Readings[1:] { // too few places are left to say anything
		b.must("backlash", record.Draft{Supersedes: e.ID, Says: &acts.Strike{}})
	}
	assert.Nil(t, trial().Result)
	_, needs := b.status("backlash")
	assert.Equal(t, "3 more readings", needs)
}

// A figure taken from an earlier step binds the two together: until it is
// there the later one waits, and when it changes the later one is open again.
func TestALaterStepFollowsTheFigureItTook(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "pedal-hydraulics", "skerry-h19")
	b.walkUntil("free-play")
	assert.Equal(t, record.Locked, first(b.status("release-travel")))
	play := b.must("free-play", answer(t, "measured", "6 mm"))
	e := b.must("release-travel", answer(t, "travel", "105 mm"))
	require.Equal(t, metrology.In, e.Verdict)
	var out struct {
		PushRod struct{ Value float64 } `json:"push_rod"`
	}
	require.NoError(t, json.Unmarshal(e.Result, &out))
	assert.InDelta(t, (105.0-6)/5, out.PushRod.Value, 1e-6, "lever law: travel less free play, over the pedal's ratio")
	require.Equal(t, record.Done, first(b.status("release-travel")))
	b.must("free-play", record.Draft{Says: &acts.Note{Note: "measured warm"}})
	require.Equal(t, record.Done, first(b.status("release-travel")), "a remark changes no figure")

	d := answer(t, "measured", "8 mm")
	d.Supersedes = play.ID
	b.must("free-play", d)
	_, needs := b.status("release-travel")
	assert.Equal(t, "Free play at the pedal has changed since: measure again", needs)
	b.must("release-travel", record.Draft{Says: &acts.Again{Reason: "free play corrected"}})
	e = b.must("release-travel", answer(t, "travel", "105 mm"))
	require.NoError(t, json.Unmarshal(e.Result, &out))
	assert.InDelta(t, (105.0-8)/5, out.PushRod.Value, 1e-6)
	assert.Equal(t, record.Done, first(b.status("release-travel")))
}

// Opening the gate by hand does not conjure up the figure behind it.
func TestAnOpenedGateStillAsksForTheFigure(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "pedal-hydraulics", "skerry-h19")
	b.walkUntil("free-play")
	b.must("release-travel", record.Draft{Says: &acts.Override{Reason: "pedal box is out"}})
	_, err := b.try("release-travel", answer(t, "travel", "140 mm"), lead)
	assert.ErrorContains(t, err, "do this first, its figure is needed here: Free play at the pedal")
}

// A book of one's own may have a step that is worked out by itself. What was
// reckoned and struck is to be made again.
func TestAStruckReckoningIsOpenAgain(t *testing.T) {
	t.Parallel()
	all, err := demoBook()
	require.NoError(t, err)
	c, err := all.Copy("clutch-hydraulic", "skerry-c228")
	require.NoError(t, err)
	intake := &c.Route.Stations[0]
	intake.Steps = append(slices.Clone(intake.Steps), book.Step{
		ID: "reckoned", Kind: book.Measure, Title: "What it must hold", Say: "Work it out.",
		Measure: &book.MeasureSpec{Calc: "clutch-capacity", Bind: map[string]book.Template{
			"engine_torque": book.Template(`"sheet.figures.engine-torque"`),
			"options":       book.Template(`"sheet.figures.kits"`),
		}},
	})
	b := benchWith(t, c)
	e := b.must("reckoned", record.Draft{Says: &acts.Reckon{}})
	assert.Equal(t, record.ReadPlace("1"), e.Item)
	status, _ := b.status("reckoned")
	require.Equal(t, record.Done, status)
	e = b.must("reckoned", record.Draft{Says: &acts.Reckon{}})
	assert.Equal(t, record.ReadPlace("2"), e.Item, "it may be worked out again")
	for _, x := range b.ledger.Entries {
		if x.Step == "reckoned" {
			b.must("reckoned", record.Draft{Supersedes: x.ID, Says: &acts.Strike{}})
			break
		}
	}
	b.must("reckoned", record.Draft{Supersedes: e.ID, Says: &acts.Strike{}})
	_, needs := b.status("reckoned")
	assert.Equal(t, "record the result", needs)
}

// Every trial of an axle goes into the next: three assemblies, three trials.
func TestEachTrialIsBound(t *testing.T) {
	t.Parallel()
	b := benchOn(t, "axle-ring-pinion", "brakka-a9")
	b.walkUntil("together")
	trial := func(shim, left, right, gauge, lash, zero string) record.Entry {
		for ask, text := range map[string]string{"shim": shim, "left": left, "right": right, "gauge": gauge,
			"lash": lash} {
			b.must("together", answer(t, ask, text))
		}
		return b.must("together", answer(t, "zero-play", zero))
	}
	// The sheet wants 124.70 mm and the mark 0.05 more; disc and arbor are 20 mm.
	e := trial("1.50 mm", "2.50 mm", "2.50 mm", "104.87 mm", "0.34 mm", "5.10 mm")
	assert.Equal(t, metrology.Verdict(""), e.Verdict, "this calculator has no verdict but a next assembly")
	var next struct {
		Done bool `json:"done"`
		Shim struct {
			Value float64 `json:"value"`
		} `json:"pinion_shim"`
	}
	require.NoError(t, json.Unmarshal(e.Result, &next))
	assert.InDelta(t, 1.62, next.Shim.Value, 0.005, "0.12 mm too far out: that much more under the head")
	b.must("together", record.Draft{Says: &acts.Again{Reason: "built as told"}})
	e = trial("1.62 mm", "2.72 mm", "2.46 mm", "104.75 mm", "0.20 mm", "5.10 mm")
	require.NoError(t, json.Unmarshal(e.Result, &next))
	assert.True(t, next.Done, "two trials, the second is in")
}

// A copy made before steps named their limit still shows it.
func TestOlderCopiesShowTheirLimits(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	old := b.ledger.Plan.Copy
	for i := range old.Route.Stations {
		for j := range old.Route.Stations[i].Steps {
			if m := old.Route.Stations[i].Steps[j].Measure; m != nil {
				before := *m
				before.Limit = ""
				old.Route.Stations[i].Steps[j].Measure = &before
			}
		}
	}
	p, err := kinds.NewPlan(old)
	require.NoError(t, err)
	b.ledger.Plan = p
	v := viewAt[*measure.MeasureStep](b, "end-float")
	assert.Equal(t, "0.03 mm to 0.15 mm", v.Limits.Min.String()+" to "+v.Limits.Max.String())
}

// Every figure that a route asks a spec sheet for has its line in the glossary:
// a bench can say what it is, and where it is found.
func TestEveryFigureThatIsWantedCanBeAskedFor(t *testing.T) {
	t.Parallel()
	b, err := demoBook()
	require.NoError(t, err)
	known := map[string]bool{}
	for _, f := range b.Glossary {
		known[f.Path] = true
		assert.NotEmpty(t, f.Help, "%s: where is it found?", f.Path)
	}
	wanted := 0
	for _, r := range b.Routes {
		for _, s := range r.Steps() {
			nature := kinds.Natures()[s.Kind]
			if nature.Wants == nil {
				continue
			}
			for _, path := range nature.Wants(s) {
				wanted++
				assert.True(t, known[book.Answer(path)], "%s, %s: %s has no line in the glossary", r.ID, s.ID, path)
			}
		}
	}
	assert.Positive(t, wanted)
}

package workshop_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/quantity/quantitytest"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/record"
)

func stackAt(t require.TestingT, b *bench, step string) []stack.StackPart {
	v, err := record.MakeStep(b.ledger, step, mechanic, b.now)
	require.NoError(t, err)
	return v.(*stack.StackStep).Stack
}

func row(parts []stack.StackPart) (ids []string) {
	for _, p := range parts {
		ids = append(ids, p.ID)
	}
	return ids
}

func TestAPartIsPutWhereItLay(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip")
	for _, id := range []string{"bearing", "circlip"} {
		b.must("strip", record.Draft{Item: record.ReadPlace(id), Says: &acts.Removed{Outcome: "removed"}})
	}
	found := b.must(
		"strip",
		record.Draft{
			Says: &acts.Removed{
				Outcome:  "removed",
				PartName: "Spacer nobody drew",
				Shaft:    "output",
				Behind:   "bearing",
				Mark:     "two dots",
				Damage:   "scored on one face",
				Bolts:    "two, one long",
				Measured: acts.Measured{Value: quantitytest.Any(t, "1.52 mm")},
			},
		},
	)
	parts := stackAt(t, b, "strip")
	assert.Equal(t, []string{"bearing", found.Item.Name, "circlip"}, row(parts)[:3])
	spacer := parts[1]
	assert.True(t, spacer.Extra)
	assert.Equal(t, "1.52 mm", spacer.Measured)
	assert.Equal(t, "two dots", spacer.Mark)
	assert.Equal(t, "output", spacer.Shaft)
	assert.Contains(t, spacer.Says, "scored on one face")
	assert.Contains(t, says(t, b, "strip", found.ID),
		"marked two dots, 1.52 mm, held by two, one long, damaged: scored on one face")

	again := b.must(
		"strip",
		record.Draft{
			Supersedes: found.ID,
			Says:       &acts.Removed{Outcome: "removed", PartName: "Spacer nobody drew", Behind: "-"},
		},
	)
	assert.Equal(t, found.Item.Name, row(stackAt(t, b, "strip"))[0], "in front of all")
	b.walkUntil("build")
	assert.Equal(t, again.Item.Name, row(stackAt(t, b, "build"))[0], "it is still to be found when it goes back in")
}

func TestWhereAPartCannotLie(t *testing.T) {
	t.Parallel()
	b := newBench(t)
	b.walkUntil("strip")
	for _, behind := range []string{"bearing", "nobody"} {
		_, err := b.try(
			"strip",
			record.Draft{Item: record.ReadPlace("bearing"), Says: &acts.Removed{Outcome: "removed", Behind: behind}},
			mechanic,
		)
		require.ErrorContains(t, err, "behind:")
	}
	_, err := b.try(
		"strip",
		record.Draft{
			Item: record.ReadPlace("bearing"),
			Says: &acts.Removed{Outcome: "removed", Measured: acts.Measured{Value: quantitytest.Any(t, "12 N·m")}},
		},
		mechanic,
	)
	require.ErrorContains(t, err, "value:")
	b.must("strip", record.Draft{Item: record.ReadPlace("bearing"), Says: &acts.Removed{Outcome: "removed"}})
	_, err = b.try(
		"strip",
		record.Draft{Item: record.ReadPlace("bearing"), Says: &acts.Removed{Outcome: "removed"}},
		lead,
	)
	require.ErrorContains(t, err, "recorded this at", "a part is taken off once")
}

// However parts are moved about, none is lost and none is listed twice.
func TestMovingPartsLosesNone(t *testing.T) {
	t.Parallel()
	base := newBench(t)
	base.walkUntil("strip")
	rapid.Check(t, func(rt *rapid.T) {
		b := *base
		ids := row(stackAt(rt, &b, "strip"))
		for _, id := range ids[:6] {
			behind := rapid.SampledFrom(append([]string{"", "-"}, ids...)).Draw(rt, "behind")
			_, err := b.try(
				"strip",
				record.Draft{Item: record.ReadPlace(id), Says: &acts.Removed{Outcome: "removed", Behind: behind}},
				mechanic,
			)
			if behind == id {
				require.Error(rt, err)
				continue
			}
			require.NoError(rt, err)
		}
		after := row(stackAt(rt, &b, "strip"))
		slices.Sort(after)
		slices.Sort(ids)
		require.Equal(rt, ids, after)
	})
}

// What is missing is said once, at the bench where it was to come off and where it
// was looked for again.
func TestAMissingPartIsSaidOnce(t *testing.T) {
	t.Parallel()
	for want, p := range map[string]stack.StackPart{
		"missing":                       {NotFound: true},
		"missing, looked for twice":     {NotFound: true, Verdict: "not-found", Reason: "looked for twice"},
		"off, replace, scored, in":      {Removed: "removed", Verdict: "replace", Reason: "scored", Fitted: "fitted"},
		"this one has none":             {None: true, NotFound: true},
		"missing, reuse, found at last": {NotFound: true, Verdict: "reuse", Reason: "found at last"},
	} {
		assert.Equal(t, want, p.Words())
	}
}

package files

import (
	"errors"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/shop"
	"handwerk/workshop/kinds"
)

const fragments = `fragments:
  - id: look
    with: {what: unit}
    steps:
      - id: look
        kind: check
        title: "Look at the {what}"
        say: "Turn the {what}."
        items:
          - {id: clean, text: Clean}
  - id: bolts
    steps:
      - id: snug
        kind: check
        title: Snug
        say: By hand.
        items:
          - {id: snug, text: All snug}
      - id: tight
        kind: check
        title: Tight
        say: By wrench.
        after: [snug]
        items:
          - {id: tight, text: All tight}
`

const used = `id: r
title: R
unit_kind: clutch
stations:
  - id: intake
    steps:
      - use: look
      - use: look
        as: look-again
        with: {what: flange}
        after: [look]
        items:
          - {id: marked, text: Marked}
  - id: assemble
    steps:
      - {use: bolts, as: front, after: [look-again]}
      - {use: bolts, as: rear}
`

func load(routeText, fragmentText string) (book.Book, Problems, error) {
	return LoadWithRemarks(kinds.Natures(), fstest.MapFS{
		"routes/r.yaml":    {Data: []byte(routeText)},
		"fragments/f.yaml": {Data: []byte(fragmentText)},
	})
}

func TestARouteIsATableOfContents(t *testing.T) {
	t.Parallel()
	b, remarks, err := load(used, fragments)
	require.NoError(t, err)
	assert.Empty(t, remarks)
	var ids []string
	for _, s := range b.Routes[0].Steps() {
		ids = append(ids, s.ID)
	}
	assert.Equal(t, []string{"look", "look-again", "front-snug", "front-tight", "rear-snug", "rear-tight"}, ids)
	step := func(id string) book.Step { s, _, _ := b.Routes[0].Step(id); return s }
	assert.Equal(t, "Look at the unit", step("look").Title, "the fragment's own word")
	assert.Equal(t, "Look at the flange", step("look-again").Title, "the use's word")
	assert.Equal(t, []string{"look"}, step("look-again").After)
	assert.Len(t, step("look-again").Items, 2, "the use adds its line")
	assert.Len(t, step("look").Items, 1, "and changes no other use")
	assert.Equal(t, []string{"look-again"}, step("front-snug").After, "the use's gate stands at the first step")
	assert.Equal(t, []string{"front-snug"}, step("front-tight").After, "a gate inside keeps to its siblings")
	assert.Equal(t, []string{"rear-snug"}, step("rear-tight").After)
}

func TestFragmentFaultsStandWhereTheyWereWritten(t *testing.T) {
	t.Parallel()
	tests := []struct {
		name, in, old, new string
		place, says        string
	}{
		{"no such fragment", "route", "use: look\n", "use: lock\n", "routes/r.yaml:7:", `there is no fragment "lock"`},
		{"a word nobody has", "route", "with: {what: flange}", "with: {whit: flange}", "routes/r.yaml:10:",
			"has no word {whit}"},
		{"a word nobody sets", "fragments", "with: {what: unit}", "with: {}", "fragments/f.yaml:5:",
			"{what} is set by nobody"},
		{"twice under one name", "route", "as: look-again\n", "as: look\n", "fragments/f.yaml:",
			"two steps are called"},
		{
			"fault of the fragment", "fragments", "kind: check\n        title: \"Look",
			"kind: chuck\n        title: \"Look",
			"fragments/f.yaml:6:", "(used by routes/r.yaml)",
		},
		{"fault of the use's gate", "route", "after: [look]", "after: [lock]", "routes/r.yaml:11:", "would never open"},
		{"fault of the use's line", "route", "{id: marked, text: Marked}", "{id: marked}", "routes/r.yaml:13:",
			"nothing stands here"},
		{"unknown key of a step", "fragments", "say: By hand.", "say: By hand.\n        sing: loud",
			"fragments/f.yaml:17:", "unknown field"},
		{"what a fragment of several cannot take", "route", "as: rear}", "as: rear, items: []}", "routes/r.yaml:17:",
			`takes no "items"`},
		{"a fragment without steps", "fragments", "    steps:\n      - id: look", "    stops:\n      - id: look",
			"fragments/f.yaml:", "missing"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			r, f := used, fragments
			if tt.in == "route" {
				r = strings.Replace(used, tt.old, tt.new, 1)
			} else {
				f = strings.Replace(fragments, tt.old, tt.new, 1)
			}
			require.NotEqual(t, used+fragments, r+f, "the case breaks something")
			_, _, err := load(r, f)
			var problems Problems
			require.True(t, errors.As(err, &problems), "%v", err)
			assert.Contains(t, err.Error(), tt.place)
			assert.Contains(t, err.Error(), tt.says)
		})
	}
}

// A shop that writes a route anew may leave a fragment that nobody uses: it is
// named, with its place, and the shop goes on.
func TestAnOverrideThatOrphansAFragmentIsNamed(t *testing.T) {
	t.Parallel()
	ours := fstest.MapFS{"routes/r.yaml": {Data: []byte(used)}, "fragments/f.yaml": {Data: []byte(fragments)}}
	theirs := fstest.MapFS{"routes/own.yaml": {Data: []byte(strings.Split(used, "  - id: assemble")[0])}}
	b, remarks, err := LoadWithRemarks(kinds.Natures(), ours, theirs)
	require.NoError(t, err)
	assert.Len(t, b.Routes, 1, "the shop's route takes the place of ours")
	require.Len(t, remarks, 1)
	assert.Contains(t, remarks[0].Error(), `fragments/f.yaml:11: fragments[1]: no route uses fragment "bolts"`)
}

// A shop may also write a fragment anew; every route that uses it follows.
func TestAShopsFragmentIsUsedByEveryRoute(t *testing.T) {
	t.Parallel()
	own := fstest.MapFS{"fragments/own.yaml": {Data: []byte(`fragments:
  - id: sign-off
    steps:
      - id: sign-off
        kind: decide
        role: lead
        title: Two signatures
        say: Both of you.
        after: [run-in]
        choices: [{id: release, text: Hand over}]
`)}}
	b, err := Load(kinds.Natures(), shop.Files, own)
	require.NoError(t, err)
	for _, r := range b.Routes {
		s, _, ok := r.Step("sign-off")
		require.True(t, ok, r.ID)
		assert.Equal(t, "Two signatures", s.Title, r.ID)
	}
}

func TestEveryShippedFragmentIsUsed(t *testing.T) {
	t.Parallel()
	_, remarks, err := LoadWithRemarks(kinds.Natures(), shop.Files)
	require.NoError(t, err)
	assert.Empty(t, remarks)
}

// What a binding lacks is named with file and line: an input nobody supplies,
// an input the calculator does not have, an answer nobody gives.
func TestStarvingBindingsAreRefused(t *testing.T) {
	t.Parallel()
	const good = `id: r
title: R
unit_kind: clutch
stations:
  - id: measure
    steps:
      - id: m
        kind: measure
        title: M
        say: Measure.
        measure:
          calc: free-play
          asks:
            - {id: play, text: Play, unit: mm, sheet: limits.play}
          bind:
            measured: entries.play
            wanted_min: sheet.limits.play.min
            wanted_max: sheet.limits.play.max
            adjuster_pitch: sheet.figures.pitch
            ratio: 6
`
	_, err := Load(kinds.Natures(), fstest.MapFS{"routes/r.yaml": {Data: []byte(good)}})
	require.NoError(t, err)
	tests := []struct{ name, old, new, place, says string }{
		{"input nobody supplies", "            ratio: 6\n", "", "routes/r.yaml:16:",
			"nobody supplies this input of free-play"},
		{"input nobody has", "ratio: 6", "ratio: 6\n            colour: 3", "routes/r.yaml:21:", "unknown field"},
		{"wrong kind", "ratio: 6", "ratio: entries.play", "routes/r.yaml:20:", "does not fit here"},
		{"answer nobody gives", "measured: entries.play", "measured: entries.pley", "routes/r.yaml:16:",
			`asks for no "pley"`},
		{"step nobody has", "measured: entries.play", "measured: steps.before.play", "routes/r.yaml:16:",
			"gives nothing"},
		{"drawer without a name", "ratio: 6", "ratio: drawer", "routes/r.yaml:20:", "names none"},
		{"ask without the sheet", ", sheet: limits.play}", "}", "routes/r.yaml:14:", "limits.x or figures.x"},
		{"ask called like a reading", "{id: play,", "{id: 3rd,", "routes/r.yaml:14:", "begins with a letter"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			_, err := Load(kinds.Natures(), fstest.MapFS{"routes/r.yaml": {Data: []byte(strings.Replace(good, tt.old,
				tt.new, 1))}})
			require.Error(t, err)
			assert.Contains(t, err.Error(), tt.place)
			assert.Contains(t, err.Error(), tt.says)
		})
	}
}

// A route that diagnoses a kind of unit of which the book knows nothing would
// leave its steps without lines: it is refused where the kind is written.
func TestARouteForAnUnknownKindOfUnitIsRefused(t *testing.T) {
	t.Parallel()
	own := fstest.MapFS{"routes/own.yaml": {Data: []byte(`id: own
title: Own
unit_kind: clutches
stations:
  - id: diagnose
    steps:
      - use: find-cause
`)}}
	_, err := Load(kinds.Natures(), shop.Files, own)
	assert.ErrorContains(
		t,
		err,
		`routes/own.yaml:3: unit_kind: the route diagnoses, and the book has 0 causes for a "clutches"`,
	)
	assert.ErrorContains(t, err, "the book has 0 complaints and 0 tests")
}

func TestBadDiagnosisIsRefusedWithFileAndLine(t *testing.T) {
	t.Parallel()
	const good = `causes:
  - {id: a, says: A, units: [clutch], weight: 1, action: do a}
tests:
  - id: t
    says: T
    units: [clutch]
    minutes: 3
    outcomes: [{id: no, text: No}, {id: yes, text: Yes}]
    otherwise: [0.9, 0.1]
    given:
      a: [0.2, 0.8]
`
	_, err := Load(kinds.Natures(), fstest.MapFS{"diagnosis/d.yaml": {Data: []byte(good)}})
	require.NoError(t, err)
	tests := []struct{ name, old, new, place, says string }{
		{"does not sum", "[0.9, 0.1]", "[0.9, 0.2]", "diagnosis/d.yaml:9:", "1.1 in sum"},
		{"too few", "a: [0.2, 0.8]", "a: [1]", "diagnosis/d.yaml:11:", "1 of 2"},
		{"no cause", "a: [0.2, 0.8]", "b: [0.2, 0.8]", "diagnosis/d.yaml:11:", `"b" is not one`},
		{"no weight", "weight: 1", "weight: 0", "diagnosis/d.yaml:2:", "is no weight"},
		{"one outcome", ", {id: yes, text: Yes}]", "]", "diagnosis/d.yaml:8:", "1 outcomes"},
		{"no unit", "says: A, units: [clutch]", "says: A, units: []", "diagnosis/d.yaml:2:", "for no unit"},
		{"a file nobody reads", "", "", "notes/n.yaml:1:", "nobody reads this file"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			files := fstest.MapFS{"diagnosis/d.yaml": {Data: []byte(strings.Replace(good, tt.old, tt.new, 1))}}
			if tt.old == "" {
				files["notes/n.yaml"] = &fstest.MapFile{Data: []byte("a: b")}
			}
			_, err := Load(kinds.Natures(), files)
			require.Error(t, err)
			assert.Contains(t, err.Error(), tt.place)
			assert.Contains(t, err.Error(), tt.says)
		})
	}
}

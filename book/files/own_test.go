package files

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/input"
)

// goes applies what a shop does otherwise to the route of the dog clutch case.
func goes(t *testing.T, own book.OwnRoute) (book.Route, error) {
	t.Helper()
	b := shippedBook(t)
	r, ok := b.Route("transfer-case-dog")
	require.True(t, ok)
	before := len(r.Steps())
	going, err := b.Going(r, own)
	again, _ := b.Route("transfer-case-dog")
	assert.Len(t, again.Steps(), before, "the book stays as it is")
	return going, err
}

func TestAShopGoesARouteItsOwnWay(t *testing.T) {
	t.Parallel()
	same, err := goes(t, book.OwnRoute{})
	require.NoError(t, err)
	sealant, _, ok := same.Step("sealant")
	require.True(t, ok)
	other := ""
	for _, s := range sealant.Schools {
		if !s.Default {
			other = s.ID
		}
	}
	r, err := goes(t, book.OwnRoute{
		Steps: map[string]book.OwnStep{
			"sealant":    {Title: "Seal  the case", Minutes: 25, School: other},
			"parts-here": {LeftOut: true},
		},
		Added: []book.Added{{Fragment: "warm-bearing", Behind: "sealant", As: "once-more"}},
	})
	require.NoError(t, err)
	changed, _, _ := r.Step("sealant")
	assert.Equal(t, "Seal the case", changed.Title)
	assert.Equal(t, sealant.Say, changed.Say)
	assert.Equal(t, 25, changed.Minutes)
	for _, s := range changed.Schools {
		assert.Equal(t, s.ID == other, s.Default, s.ID)
	}
	_, station, ok := r.Step("once-more")
	require.True(t, ok)
	assert.EqualValues(t, "assemble", station)
	added, _, _ := r.Step("once-more")
	assert.Contains(t, added.After, "sealant")
	require.Len(t, r.Steps(), len(same.Steps()))
}

// A step left out closes no gate: who waited for it waits for what it waited for.
func TestWhatIsLeftOutHoldsNobodyUp(t *testing.T) {
	t.Parallel()
	before, err := goes(t, book.OwnRoute{})
	require.NoError(t, err)
	left, tried := 0, 0
	for _, s := range before.Steps() {
		tried++
		r, err := goes(t, book.OwnRoute{Steps: map[string]book.OwnStep{s.ID: {LeftOut: true}}})
		if err != nil {
			for _, f := range input.Below("", err) {
				assert.NotEmpty(t, f.Accepted, "leaving out %s: %v", s.ID, f)
			}
			continue
		}
		left++
		for _, x := range r.Steps() {
			assert.NotContains(t, x.After, s.ID, x.ID)
		}
	}
	assert.Greater(t, left, tried/3, "most steps stand for themselves")
	assert.Less(t, left, tried, "some give what others need")
}

func TestAShopCannotLeaveAMechanicStuck(t *testing.T) {
	t.Parallel()
	for name, tt := range map[string]struct {
		own  book.OwnRoute
		path string
	}{
		"a step that is none": {book.OwnRoute{Steps: map[string]book.OwnStep{"nothing": {Minutes: 3}}},
			"steps.nothing"},
		"the lead's own": {book.OwnRoute{Steps: map[string]book.OwnStep{"sign-off": {LeftOut: true}}},
			"steps.sign-off.left_out"},
		"where a grave hazard is": {book.OwnRoute{Steps: map[string]book.OwnStep{"static": {LeftOut: true}}},
			"steps.static.left_out"},
		"a school that is none": {book.OwnRoute{Steps: map[string]book.OwnStep{"sealant": {School: "guess"}}},
			"steps.sealant.school"},
		"minutes below nothing": {book.OwnRoute{Steps: map[string]book.OwnStep{"sealant": {Minutes: -1}}},
			"steps.sealant.minutes"},
		"a piece that is none": {book.OwnRoute{Added: []book.Added{{Fragment: "magic", Behind: "sealant"}}},
			"added[0].fragment"},
		"behind nothing": {book.OwnRoute{Added: []book.Added{{Fragment: "deburr", Behind: "never",
			As: "again"}}}, "added[0].behind"},
		"a word that it has not": {
			book.OwnRoute{
				Added: []book.Added{{Fragment: "sealant", Behind: "sealant", As: "again",
					With: map[string]string{"who": "me"}}},
			},
			"added[0].with.who",
		},
		"a word that is a novel": {
			book.OwnRoute{
				Added: []book.Added{
					{
						Fragment: "sealant", Behind: "sealant", As: "again",
						With: map[string]string{"where": strings.Repeat("long ", 200)},
					},
				},
			},
			"added[0].with.where",
		},
		"an id that is taken": {book.OwnRoute{Added: []book.Added{{Fragment: "sealant", Behind: "sealant"}}},
			"steps.sealant.id"},
		"a name that is no id": {
			book.OwnRoute{Added: []book.Added{{Fragment: "sealant", Behind: "sealant", As: "Seal it"}}},
			"steps.Seal it.id",
		},
		"a novel instead of a line": {
			book.OwnRoute{Steps: map[string]book.OwnStep{"sealant": {Title: string(make([]byte, 200)) + "x"}}},
			"steps.sealant.title",
		},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := goes(t, tt.own)
			require.Error(t, err)
			var paths []string
			for _, f := range input.Below("", err) {
				paths = append(paths, f.Path)
			}
			assert.Contains(t, paths, tt.path, err.Error())
		})
	}
}

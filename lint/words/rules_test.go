package main

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// The examples are the project's own table of how each kind of text reads.
func TestWhatReadsBadlyIsSaid(t *testing.T) {
	t.Parallel()
	for says, bad := range map[text]string{
		{kind: title, says: "Drain and read the oil"}:                                "",
		{kind: title, says: "Transfer case, gear type, dog-clutch four-wheel drive"}: "title of more than 6",
		{kind: instruction, says: "Fill plug first, then drain warm, not hot."}:      "",
		{kind: instruction, says: "Pull. Zero. Push."}:                               "more than 2 sentences",
		{kind: instruction, says: "Read 0.05 mm at 3 o'clock. Turn once."}:           "",
		{kind: instruction, says: "One" + strings.Repeat(" word", 14) + "."}:         "more than 14 words",
		{kind: button, says: "Record quantity"}:                                      "",
		{kind: button, says: "Record order from 0: 0 0"}:                             "",
		{kind: button, says: "Put it on record as it is"}:                            "a button of more than 4",
		{kind: other, says: "only a lead can change a gauge"}:                        "",
		{kind: other, says: "the shim shall be measured anew"}:                       "do not use, shall",
		{kind: other, says: "See the maker's book"}:                                  "an old name",
		{kind: other, says: "Stay below 4,000 rpm"}:                                  "a comma in thousands",
		{kind: other, says: `"1,250" could mean two things`}:                         "",
		{kind: other, says: "it stands 6 mm high"}:                                   "do not use, it stands",
		{kind: other, says: "Four axle stands under it"}:                             "",
		{kind: other, says: "Off by 0.1  mm"}:                                        "two spaces",
		{kind: other, says: "An axle , sent out"}:                                    "before a stop",
		{kind: other, says: "Bore out of center"}:                                    "not British",
		{kind: other, says: "give limits_max"}:                                       "a path or an id",
	} {
		faults, excepted := judge([]text{says})
		assert.Zero(t, excepted)
		if bad == "" {
			assert.Empty(t, faults)
		} else {
			assert.Contains(t, strings.Join(faults, "\n"), bad)
		}
	}
}

func TestAnExceptionStandsBesideItsText(t *testing.T) {
	t.Parallel()
	found, err := inGo("../../cmd/handwerk/serve.go")
	assert.NoError(t, err)
	for i := range found {
		found[i].file = "../../cmd/handwerk/serve.go"
	}
	faults, excepted := judge(found)
	assert.Empty(t, faults)
	assert.Equal(t, 1, excepted)
}

// What only looks like an exception is none: the book has a key of that name.
func TestAKeyOfTheBookIsNoException(t *testing.T) {
	t.Parallel()
	assert.True(t, exception.MatchString("	// words: the address stands by itself"))
	assert.True(t, exception.MatchString("  say: Pull. # words: one act each"))
	assert.False(t, exception.MatchString("    words: {left: Left side}"))
}

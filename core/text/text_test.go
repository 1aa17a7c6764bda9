package text

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestBadNamesTheCharacter(t *testing.T) {
	t.Parallel()
	for s, says := range map[string]string{
		"":                      "",
		"Öl läuft\taus\r\nhier": "",
		"漏油 🔧 ελαιο":            "",
		"a\x00b":                "U+0000 <control>",
		"a\x1bb":                "U+001B",
		"a\u0085b":              "U+0085",
		"a\u202eb":              "U+202E RIGHT-TO-LEFT OVERRIDE",
		"a\u2066b":              "U+2066 LEFT-TO-RIGHT ISOLATE",
		"a\xffb":                "not UTF-8",
		"a\ufffdb":              "could not be read",
	} {
		got := Bad(s)
		if says == "" {
			assert.Empty(t, got, "%q", s)
			continue
		}
		assert.Contains(t, got, says, "%q", s)
	}
}

func TestLengthCountsCharacters(t *testing.T) {
	t.Parallel()
	assert.Equal(t, 3, Length("äö🔧"))
}

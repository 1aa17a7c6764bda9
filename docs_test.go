package handwerk

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	inTicks = regexp.MustCompile("`([^`\n]+)`")
	aFile   = regexp.MustCompile(`^[\w.-]+(/[\w.-]+)+$`)
	aWord   = regexp.MustCompile("(?m)^\\| ([a-z ]+) \\| .* \\| `([\\w.]+)` \\| `([\\w/.]+)` \\|$")
)

// What the documents point at is there: a file or folder of the house, from its
// root on or below web/src.
func TestTheDocumentsPointAtWhatIsThere(t *testing.T) {
	documents, err := filepath.Glob("docs/*.md")
	require.NoError(t, err)
	pointed := 0
	for _, name := range append(documents, "README.md") {
		raw, err := os.ReadFile(name)
		require.NoError(t, err)
		for _, m := range inTicks.FindAllStringSubmatch(string(raw), -1) {
			if root, _, _ := strings.Cut(m[1], "/"); !aFile.MatchString(m[1]) || !isRoom(root) {
				continue
			}
			pointed++
			_, err := os.Stat(m[1])
			assert.NoError(t, err, "%s points at %s", name, m[1])
		}
	}
	assert.Greater(t, pointed, 60)
}

// isRoom tells whether a path begins in the house.
func isRoom(root string) bool {
	info, err := os.Stat(root)
	return err == nil && info.IsDir()
}

// Each word of the project is a type that stands in the file that is named.
func TestEveryWordIsAType(t *testing.T) {
	raw, err := os.ReadFile("docs/words.md")
	require.NoError(t, err)
	words := aWord.FindAllStringSubmatch(string(raw), -1)
	require.GreaterOrEqual(t, len(words), 40)
	for i, m := range words {
		if i > 0 {
			assert.Less(t, words[i-1][1], m[1], "the words stand in order")
		}
		code, err := os.ReadFile(m[3])
		if !assert.NoError(t, err, m[1]) {
			continue
		}
		_, name, qualified := strings.Cut(m[2], ".")
		if !qualified {
			name = m[2]
		}
		assert.Regexp(t, `(?m)^(export )?type `+name+`\b|^	`+name+` +struct`, string(code), "%s: %s", m[1], m[3])
	}
}

package core

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// allowed says which packages of the house each room may import; whatever is
// not listed is a broken arrow. "core" stands for everything below it.
var allowed = map[string][]string{
	"core":      {"core"},
	"book":      {"core"},
	"workshop":  {"core", "picture"},
	"postgres":  {"workshop", "core", "picture"},
	"picture":   {},
	"report":    {"workshop", "core", "picture"},
	"simulator": {"workshop", "core"},
	"web":       {},
	"httpapi":   {"workshop", "core", "report", "picture", "web"},
	"cmd":       {"httpapi", "postgres", "report", "simulator", "workshop", "book", "core", "web"},
	"e2e":       {},
}

// packages lists "import path: imports..." of the whole module, tests excluded.
func packages(t *testing.T) map[string][]string {
	t.Helper()
	list := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "handwerk/...")
	out, err := list.Output()
	require.NoError(t, err)
	found := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		words := strings.Fields(line)
		found[words[0]] = words[1:]
	}
	return found
}

func room(path string) string {
	name, _, _ := strings.Cut(strings.TrimPrefix(path, "handwerk/"), "/")
	return name
}

func TestArrowsPointOneWay(t *testing.T) {
	for path, imports := range packages(t) {
		from := room(path)
		if !assert.Contains(t, allowed, from, "%s is in no room of the house", path) {
			continue
		}
		for _, imported := range imports {
			if !strings.HasPrefix(imported, "handwerk/") || room(imported) == from {
				continue
			}
			assert.Contains(t, allowed[from], room(imported), "%s must not import %s", path, imported)
		}
	}
}

// Core is pure: no clock, no files, no network, no database.
func TestCoreDoesNoInputOrOutput(t *testing.T) {
	for path, imports := range packages(t) {
		if room(path) != "core" {
			continue
		}
		for _, imported := range imports {
			for _, banned := range []string{"os", "net", "net/http", "time", "database/sql", "io/fs", "log", "log/slog"} {
				assert.NotEqual(t, banned, imported, "%s imports %s", path, imported)
			}
		}
	}
}

// Inside core, packages import only downward: the trade on metrology, that on quantity.
func TestCorePackagesImportDownward(t *testing.T) {
	base := map[string]bool{"handwerk/core/quantity": true, "handwerk/core/metrology": true, "handwerk/core/fault": true, "handwerk/core/solve": true, "handwerk/core/need": true, "handwerk/core/quantity/quantitytest": true, "handwerk/core/strict": true, "handwerk/core/text": true}
	for path, imports := range packages(t) {
		if room(path) != "core" || path == "handwerk/core/calc" || path == "handwerk/core/plan" {
			continue
		}
		for _, imported := range imports {
			if strings.HasPrefix(imported, "handwerk/") {
				assert.True(t, base[imported], "%s imports %s", path, imported)
			}
		}
	}
}

// Package handwerk holds what is true of the whole house and of no room alone.
package handwerk

import (
	"encoding/json"
	"errors"
	"io"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// allowed says which rooms each room may import, and which modules it may use;
// whatever is not listed is a broken arrow. A room stands for all below it
// unless a narrower one is named. "test" rooms run in tests only.
var allowed = map[string]room{
	"core":               {uses: "golang.org/x/text gonum.org/v1/gonum"},
	"core/calc":          {rooms: "core"},
	"core/calc/describe": {rooms: "core core/calc", uses: "github.com/swaggest/jsonschema-go"},
	"book":               {rooms: "core"},
	"book/shop":          {},
	"book/demo":          {},
	"book/files": {rooms: "core core/calc/describe book",
		uses: "go.yaml.in/yaml/v3 github.com/swaggest/jsonschema-go"},
	"picture": {uses: "github.com/bep/imagemeta golang.org/x/image golang.org/x/sync"},
	// The rooms of the workshop stand one on the other; a kind of step stands on
	// those it asks.
	"workshop/say":    {rooms: "core", uses: "github.com/google/uuid"},
	"workshop/seal":   {rooms: "workshop/say", uses: "golang.org/x/mod"},
	"workshop/people": {rooms: "workshop/say"},
	"workshop/acts":   {rooms: "core book workshop/say workshop/shop"},
	"workshop/shop":   {rooms: "core book workshop/say workshop/seal workshop/people"},
	"workshop/record": {rooms: "core book workshop/say workshop/seal workshop/people workshop/shop workshop/acts"},
	"workshop/kinds": {
		rooms: aKind + " workshop/kinds/measure workshop/kinds/items workshop/kinds/stack workshop/kinds/torque " +
			"workshop/kinds/fill " +
			"workshop/kinds/wait workshop/kinds/caution workshop/kinds/photo workshop/kinds/decide " +
			"workshop/kinds/order",
	},
	"workshop/kinds/measure": {rooms: aKind + " core/calc"},
	"workshop/kinds/items":   {rooms: aKind + " workshop/kinds/measure"},
	"workshop/kinds/stack":   {rooms: aKind + " workshop/kinds/measure"},
	"workshop/kinds/torque":  {rooms: aKind},
	"workshop/kinds/fill":    {rooms: aKind + " workshop/kinds/measure workshop/kinds/items"},
	"workshop/kinds/wait":    {rooms: aKind},
	"workshop/kinds/caution": {rooms: aKind},
	"workshop/kinds/photo":   {rooms: aKind},
	"workshop/kinds/decide":  {rooms: aKind + " workshop/kinds/measure workshop/kinds/items workshop/kinds/stack"},
	"workshop/buying":        {rooms: aKind + " workshop/kinds/measure workshop/kinds/stack workshop/kinds/decide"},
	"workshop/kinds/order":   {rooms: aKind + " workshop/kinds/measure workshop/buying workshop/kinds/decide"},
	"workshop/paper": {
		rooms: aKind + " workshop/kinds/measure workshop/kinds/stack workshop/kinds/torque workshop/kinds/decide",
	},
	"workshop": {
		rooms: aKind + " workshop/kinds workshop/kinds/measure workshop/kinds/stack workshop/buying " +
			"workshop/paper picture",
		uses: "github.com/google/uuid",
	},
	"workshop/walk":     {rooms: "workshop workshop/acts workshop/kinds workshop/people workshop/record"},
	"postgres/cluster":  {uses: "github.com/jackc/pgx/v5"},
	"postgres/conn":     {rooms: "postgres/cluster", uses: "github.com/jackc/pgx/v5 github.com/jmoiron/sqlx"},
	"postgres/staff":    {rooms: "postgres/conn workshop/people", uses: "github.com/jmoiron/sqlx"},
	"postgres/learning": {rooms: "core postgres/conn workshop/people workshop/shop"},
	"postgres/translog": {
		rooms: "postgres/conn postgres/cluster workshop/seal",
		uses:  "github.com/jackc/pgx/v5 github.com/jmoiron/sqlx golang.org/x/mod",
	},
	"postgres": {
		rooms: "core book picture postgres/cluster postgres/conn postgres/staff postgres/learning postgres/translog " + theWorkshop,
		uses: "github.com/google/uuid github.com/hashicorp/golang-lru/v2 github.com/jackc/pgx/v5 " +
			"github.com/jmoiron/sqlx github.com/pressly/goose/v3 golang.org/x/mod",
	},
	"postgres/pgtest": {
		rooms: "postgres postgres/cluster",
		uses:  "github.com/jackc/pgx/v5 github.com/google/uuid",
		test:  true,
	},
	"report": {
		rooms: "core book picture " + theWorkshop,
		uses:  "codeberg.org/go-pdf/fpdf github.com/boombuler/barcode golang.org/x/image golang.org/x/mod",
	},
	"simulator": {},
	"web":       {},
	"httpapi/contract": {
		rooms: "core core/calc core/calc/describe book report " + theWorkshop,
		uses:  "github.com/swaggest/jsonschema-go github.com/swaggest/openapi-go",
	},
	"httpapi/follow": {rooms: "core"},
	"httpapi": {
		rooms: "core core/calc core/calc/describe book report picture web httpapi/contract httpapi/follow " + theWorkshop,
		uses: "github.com/alexedwards/argon2id github.com/ccojocar/zxcvbn-go " +
			"github.com/gofiber/fiber/v3 github.com/valyala/fasthttp " +
			"github.com/hashicorp/golang-lru/v2 golang.org/x/sync github.com/google/uuid",
	},
	"cmd": {
		rooms: "core core/calc core/calc/describe book book/files book/shop book/demo workshop/walk postgres " +
			"postgres/cluster postgres/conn report simulator httpapi httpapi/follow web " + theWorkshop,
		uses: "github.com/caarlos0/env/v11 github.com/spf13/cobra golang.org/x/term golang.org/x/mod " +
			"github.com/jackc/pgx/v5 github.com/gofiber/fiber/v3",
	},
	"lint/words": {uses: "go.yaml.in/yaml/v3"},
	"e2e": {
		rooms: "core " + theWorkshop,
		uses:  "github.com/go-rod/rod github.com/jackc/pgx/v5 github.com/valyala/fasthttp",
		test:  true,
	},
}

// aKind is what every kind of step stands on.
const aKind = "core book workshop/say workshop/seal workshop/people workshop/shop workshop/acts workshop/record"

// theWorkshop is all that stands on it may ask.
const theWorkshop = "workshop workshop/say workshop/seal workshop/people workshop/shop workshop/acts " +
	"workshop/record workshop/kinds workshop/buying " +
	"workshop/paper workshop/kinds/fill workshop/kinds/torque workshop/kinds/order"

type room struct {
	rooms, uses string
	test        bool
}

type pkg struct {
	ImportPath string
	Imports    []string
}

// packages lists the whole module with what each package imports, tests excluded.
func packages(t *testing.T) []pkg {
	t.Helper()
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports", "handwerk/...").Output()
	require.NoError(t, err)
	var list []pkg
	for d := json.NewDecoder(strings.NewReader(string(out))); ; {
		var p pkg
		if err := d.Decode(&p); errors.Is(err, io.EOF) {
			return list
		} else if err != nil {
			t.Fatal(err)
		}
		list = append(list, p)
	}
}

// roomOf is the narrowest room a package lies in; empty when it lies in none.
func roomOf(path string) string {
	path = strings.TrimPrefix(path, "handwerk/")
	for {
		if _, ok := allowed[path]; ok {
			return path
		}
		i := strings.LastIndex(path, "/")
		if i < 0 {
			return ""
		}
		path = path[:i]
	}
}

func TestArrowsPointOneWay(t *testing.T) {
	for _, p := range packages(t) {
		if p.ImportPath == "handwerk" {
			continue
		}
		from := roomOf(p.ImportPath)
		if !assert.NotEmpty(t, from, "%s is in no room of the house", p.ImportPath) {
			continue
		}
		for _, imported := range p.Imports {
			first, _, _ := strings.Cut(imported, "/")
			switch {
			case first == "handwerk":
				to := roomOf(imported)
				assert.True(
					t, to == from || slices.Contains(strings.Fields(allowed[from].rooms), to), "%s must not import %s",
					p.ImportPath, imported,
				)
				assert.False(t, allowed[to].test &&
					!allowed[from].test, "%s is for tests, %s is not", imported, p.ImportPath)
			case strings.Contains(first, "."):
				used := slices.ContainsFunc(
					strings.Fields(allowed[from].uses),
					func(m string) bool { return imported == m || strings.HasPrefix(imported, m+"/") },
				)
				assert.True(t, used, "%s must not use %s", p.ImportPath, imported)
			}
		}
	}
}

// Core is pure: no clock, no files, no network, no database, no chance.
func TestCoreDoesNoInputOrOutput(t *testing.T) {
	banned := []string{"os", "net", "net/http", "time", "database/sql", "io/fs", "log", "log/slog", "testing",
		"math/rand"}
	for _, p := range packages(t) {
		if !strings.HasPrefix(p.ImportPath, "handwerk/core/") || forTests(p.ImportPath) {
			continue
		}
		for _, imported := range p.Imports {
			assert.NotContains(t, banned, imported, "%s imports %s", p.ImportPath, imported)
		}
	}
}

// forTests: a package that helps tests is named after what it helps to look at.
func forTests(path string) bool {
	dir, name := filepath.Split(path)
	return name == filepath.Base(dir)+"test"
}

// Inside core, packages import only downward: the trade on packs of shims and on metrology, that on quantity.
func TestCorePackagesImportDownward(t *testing.T) {
	base := []string{"text", "input", "quantity", "quantity/quantitytest", "solve", "calculator", "metrology",
		"shim"}
	for _, p := range packages(t) {
		name, inCore := strings.CutPrefix(p.ImportPath, "handwerk/core/")
		if !inCore || name == "calc" || name == "calc/describe" || (forTests(name) && !slices.Contains(base, name)) {
			continue
		}
		for _, imported := range p.Imports {
			below, ours := strings.CutPrefix(imported, "handwerk/core/")
			if !ours {
				continue
			}
			at := slices.Index(base, below)
			assert.GreaterOrEqual(t, at, 0, "%s imports %s", p.ImportPath, imported)
			if own := slices.Index(base, name); own >= 0 {
				assert.Less(t, at, own, "%s stands below %s", p.ImportPath, imported)
			}
		}
	}
}

// What a workshop runs carries nothing that is there for tests.
func TestTheProgramCarriesNoTestTools(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "handwerk/cmd/handwerk").Output()
	require.NoError(t, err)
	deps := strings.Fields(string(out))
	require.Contains(t, deps, "handwerk/workshop")
	for _, dep := range deps {
		for _, tool := range []string{
			"testing", "github.com/stretchr/testify", "pgregory.net/rapid", "github.com/go-rod/rod",
			"handwerk/postgres/pgtest",
		} {
			assert.False(t, dep == tool || strings.HasPrefix(dep, tool+"/") ||
				forTests(dep), "the program carries %s", dep)
		}
	}
}

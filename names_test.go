package handwerk

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/calc"
	"handwerk/workshop/kinds"
)

// goFiles gives every file of the module but tests, and those of some rooms.
func goFiles(t *testing.T, but ...string) map[string]*ast.File {
	t.Helper()
	files := map[string]*ast.File{}
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if d.IsDir() && (d.Name() == "node_modules" || slices.Contains(but, path)) {
			return filepath.SkipDir
		}
		if err != nil || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		files[path], err = parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
		return err
	}))
	require.NotEmpty(t, files)
	return files
}

// kindConstants are the names of the kinds as the book writes them.
func kindConstants(t *testing.T) (names []string) {
	t.Helper()
	file, err := parser.ParseFile(token.NewFileSet(), "book/route.go", nil, parser.SkipObjectResolution)
	require.NoError(t, err)
	ast.Inspect(file, func(n ast.Node) bool {
		if v, ok := n.(*ast.ValueSpec); ok && v.Type != nil {
			if id, ok := v.Type.(*ast.Ident); ok && id.Name == "Kind" {
				names = append(names, v.Names[0].Name)
			}
		}
		return true
	})
	require.NotEmpty(t, names)
	return names
}

// A kind of step is asked, never compared with: what others want to know of one is
// an answer of its value.
func TestNoKindIsAskedByItsName(t *testing.T) {
	names := kindConstants(t)
	for path, file := range goFiles(t, "workshop/kinds") {
		ast.Inspect(file, func(n ast.Node) bool {
			if sel, ok := n.(*ast.SelectorExpr); ok {
				x, _ := sel.X.(*ast.Ident)
				assert.False(t, x != nil && x.Name == "book" && slices.Contains(names, sel.Sel.Name),
					"%s asks for the kind %s", path, sel.Sel.Name)
			}
			return true
		})
	}
}

// A calculator is asked by what its chapter defines, never by its name.
func TestNoCalculatorIsAskedByItsName(t *testing.T) {
	for path, file := range goFiles(t, "core") {
		ast.Inspect(file, func(n ast.Node) bool {
			for _, name := range askedFor(n) {
				_, is := calc.All().Named(name)
				assert.False(t, is, "%s asks for the calculator %s", path, name)
			}
			return true
		})
	}
}

// askedFor are the texts that a node compares with, looks up or finds by.
func askedFor(n ast.Node) (names []string) {
	var texts []ast.Expr
	switch n := n.(type) {
	case *ast.BinaryExpr:
		if n.Op == token.EQL || n.Op == token.NEQ {
			texts = []ast.Expr{n.X, n.Y}
		}
	case *ast.CaseClause:
		texts = n.List
	case *ast.IndexExpr:
		texts = []ast.Expr{n.Index}
	case *ast.CallExpr:
		if sel, ok := n.Fun.(*ast.SelectorExpr); ok && sel.Sel.Name == "Named" {
			texts = n.Args
		}
	}
	for _, x := range texts {
		if lit, ok := x.(*ast.BasicLit); ok && lit.Kind == token.STRING {
			if name, err := strconv.Unquote(lit.Value); err == nil {
				names = append(names, name)
			}
		}
	}
	return names
}

var source = os.DirFS(".")

// The screens hold to the same: a kind's name stands in its own folder of steps, a
// calculator's in its own folder of benches.
func TestNoScreenAsksByName(t *testing.T) {
	var words []string
	for _, k := range kinds.All {
		words = append(words, string(k.Name))
	}
	kind := regexp.MustCompile(`\bkind\)? *[!=]== *"(` + strings.Join(words, "|") + `)"`)
	require.NoError(t, filepath.WalkDir("web/src", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".ts") && !strings.HasSuffix(path, ".tsx") ||
			strings.Contains(path, ".gen.") || strings.Contains(path, ".test.") {
			return err
		}
		raw, err := fs.ReadFile(source, path)
		for _, found := range kind.FindAllStringSubmatch(string(raw), -1) {
			assert.Equal(t, "web/src/steps/"+found[1], filepath.Dir(path), "%s asks for the kind %s", path, found[1])
		}
		return err
	}))
}

// participle is a name that says what was done and not what it does. Words are
// nouns: what says an agreement may be called agreedWords.
var participle = regexp.MustCompile(
	`^[A-Za-z][a-z]*[^e]ed([A-Z]|$)|^(?i:worn|said|told|held|kept|known|given|drawn|taken|shown|done|made|left|` +
		`bound|sent|gone|seen|built|written|chosen|laid|meant|paid|sold|felt|begun)([A-Z]|$)`,
)

// A function of the workshop says what it does: check, read, fold, make, open.
func TestAFunctionSaysWhatItDoes(t *testing.T) {
	t.Parallel()
	for _, no := range []string{"worn", "Linked", "said", "unlisted", "measuredAt", "leftBy"} {
		assert.Regexp(t, participle, no)
	}
	for _, yes := range []string{"read", "checkWear", "Need", "feed", "Speed"} {
		assert.NotRegexp(t, participle, yes)
	}
	looked := 0
	for path, file := range goFiles(t) {
		for _, d := range file.Decls {
			if f, is := d.(*ast.FuncDecl); is && strings.HasPrefix(path, "workshop/") &&
				!strings.HasSuffix(f.Name.Name, "Words") {
				looked++
				assert.NotRegexp(t, participle, f.Name.Name, path)
			}
		}
	}
	assert.Greater(t, looked, 500)
}

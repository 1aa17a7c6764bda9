package handwerk

import (
	"bytes"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What fits into a head: a package's lines without tests, a type's methods.
const (
	mostLines   = 4000
	mostMethods = 25
)

func TestNoPackageIsTooLarge(t *testing.T) {
	lines := map[string]int{}
	for path := range goFiles(t) {
		raw, err := os.ReadFile(path)
		require.NoError(t, err)
		lines[filepath.Dir(path)] += bytes.Count(raw, []byte("\n"))
	}
	for room, n := range lines {
		assert.LessOrEqual(t, n, mostLines, room)
	}
}

func TestNoTypeDoesEverything(t *testing.T) {
	methods := map[string]int{}
	for path, file := range goFiles(t) {
		for _, d := range file.Decls {
			if f, ok := d.(*ast.FuncDecl); ok && f.Recv != nil {
				methods[filepath.Dir(path)+"."+receiver(f.Recv.List[0].Type)]++
			}
		}
	}
	require.NotEmpty(t, methods)
	for of, n := range methods {
		assert.LessOrEqual(t, n, mostMethods, of)
	}
}

func receiver(e ast.Expr) string {
	switch e := e.(type) {
	case *ast.StarExpr:
		return receiver(e.X)
	case *ast.IndexExpr:
		return receiver(e.X)
	case *ast.Ident:
		return e.Name
	}
	return ""
}

// Tests of these rooms run beside each other; one that cannot says why, in a
// comment that begins with "Alone:".
var beside = []string{"core", "book", "workshop", "report", "picture", "postgres", "httpapi"}

func TestTestsRunBesideEachOther(t *testing.T) {
	seen := 0
	for _, room := range beside {
		require.NoError(t, filepath.WalkDir(room, func(path string, _ fs.DirEntry, err error) error {
			if err != nil || !strings.HasSuffix(path, "_test.go") {
				return err
			}
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ParseComments)
			require.NoError(t, err)
			for _, d := range file.Decls {
				f, ok := d.(*ast.FuncDecl)
				if !ok || !strings.HasPrefix(f.Name.Name, "Test") || f.Name.Name == "TestMain" {
					continue
				}
				seen++
				alone := strings.Contains(f.Doc.Text(), "Alone:")
				assert.True(t, alone != isParallel(f.Body), "%s: %s", path, f.Name.Name)
			}
			return nil
		}))
	}
	assert.NotZero(t, seen)
}

// isParallel: the first thing a test says.
func isParallel(body *ast.BlockStmt) bool {
	return slices.ContainsFunc(body.List[:min(1, len(body.List))], func(s ast.Stmt) bool {
		said, _ := s.(*ast.ExprStmt)
		if said == nil {
			return false
		}
		call, _ := said.X.(*ast.CallExpr)
		if call == nil {
			return false
		}
		of, _ := call.Fun.(*ast.SelectorExpr)
		return of != nil && of.Sel.Name == "Parallel"
	})
}

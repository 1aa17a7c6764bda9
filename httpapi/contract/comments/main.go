// Comments writes what the comments in the code say of types and their fields,
// as JSON by package, type and field: the OpenAPI document describes itself
// with it. Run by make generate.
package main

import (
	"encoding/json"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"
)

func main() {
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(roots []string) error {
	says := map[string]string{}
	for _, root := range roots {
		err := filepath.WalkDir(root, func(name string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(name, ".go") || strings.HasSuffix(name, "_test.go") {
				return err
			}
			file, err := parser.ParseFile(token.NewFileSet(), name, nil, parser.ParseComments)
			if err == nil {
				read(path.Join("handwerk", filepath.ToSlash(filepath.Dir(name))), file, says)
			}
			return err
		})
		if err != nil {
			return err
		}
	}
	e := json.NewEncoder(os.Stdout)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	return e.Encode(says)
}

// read notes the types of a file.
func read(pkg string, file *ast.File, says map[string]string) {
	for _, decl := range file.Decls {
		types, ok := decl.(*ast.GenDecl)
		if !ok || types.Tok != token.TYPE {
			continue
		}
		for _, spec := range types.Specs {
			t := spec.(*ast.TypeSpec)
			name := pkg + "." + t.Name.Name
			note(says, name, t.Doc, types.Doc, t.Comment)
			if fields, ok := t.Type.(*ast.StructType); ok {
				for _, f := range fields.Fields.List {
					for _, n := range f.Names {
						note(says, name+"."+n.Name, f.Doc, f.Comment)
					}
				}
			}
		}
	}
}

// note takes the first comment there is, on one line.
func note(says map[string]string, name string, comments ...*ast.CommentGroup) {
	for _, c := range comments {
		if words := strings.Join(strings.Fields(c.Text()), " "); words != "" {
			says[name] = words
			return
		}
	}
}

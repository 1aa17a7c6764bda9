package main

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"go.yaml.in/yaml/v3"
)

// bookKinds are the keys of the book whose text is read, with the kind it is.
var bookKinds = map[string]kind{
	"title": title, "say": instruction, "why": other, "text": other, "says": other, "name": other, "help": other,
	"action": other, "faces": other, "fit": other, "rule": other, "what": other, "first": other, "second": other,
	"third": other,
}

// inBook are the texts of a file of the book.
func inBook(path string) ([]text, error) {
	raw, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	var root yaml.Node
	if err := yaml.Unmarshal(raw, &root); err != nil {
		return nil, err
	}
	texts := []text{}
	var walk func(*yaml.Node)
	walk = func(n *yaml.Node) {
		for i, c := range n.Content {
			if n.Kind == yaml.MappingNode && i%2 == 1 && c.Kind == yaml.ScalarNode {
				k, read := bookKinds[n.Content[i-1].Value]
				if read && !strings.HasPrefix(c.Value, "{") {
					texts = append(texts, text{path, c.Line, k, c.Value})
				}
			}
			walk(c)
		}
	}
	walk(&root)
	return texts, nil
}

// unread are calls and fields whose text is for the log, a query or the catalogue's page.
var unread = []string{
	"Log", "log", "Warn", "Info", "Error", "security", "panic", "MustCompile", "Get", "Select",
	"ExecContext", "QueryContext", "Formula", "Assumes", "Schools", "Sources", "Getenv", "Exec",
	"summary", "Short", "Long", "Use", "get", "post", "put", "raw", "del", "rows", "Query", "named",
}

var sentence = regexp.MustCompile(`[a-z]{2,} [a-z]{2,}`)

// inGo are the sentences of a file: texts with two words at least, which are neither
// for the log nor for a program.
func inGo(path string) ([]text, error) {
	files := token.NewFileSet()
	file, err := parser.ParseFile(files, path, nil, parser.SkipObjectResolution)
	if err != nil {
		return nil, err
	}
	texts := []text{}
	ast.Inspect(file, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.ImportSpec, *ast.Field:
			return false
		case *ast.CallExpr:
			return !slices.Contains(unread, called(n.Fun))
		case *ast.KeyValueExpr:
			key, named := n.Key.(*ast.Ident)
			return !named || !slices.Contains(unread, key.Name)
		case *ast.BasicLit:
			said, err := strconv.Unquote(n.Value)
			if n.Kind == token.STRING && n.Value[0] == '"' && err == nil && sentence.MatchString(said) {
				texts = append(texts, text{path, files.Position(n.Pos()).Line, other, said})
			}
		}
		return true
	})
	return texts, nil
}

func called(fun ast.Expr) string {
	switch f := fun.(type) {
	case *ast.Ident:
		return f.Name
	case *ast.SelectorExpr:
		if x, of := f.X.(*ast.Ident); of && (x.Name == "log" || x.Name == "slog") {
			return "log"
		}
		return f.Sel.Name
	}
	return ""
}
